"""For whoever watches over the server: whether it lives, and whether it can answer."""

from django.contrib.auth.decorators import login_not_required
from django.db import Error as DatabaseError
from django.db import connection
from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_safe


@login_not_required
@require_safe
def health(_request: HttpRequest) -> HttpResponse:
    """The process lives."""
    return HttpResponse("ok\n", content_type="text/plain")


@login_not_required
@require_safe
def ready(_request: HttpRequest) -> HttpResponse:
    """The database answers as well."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    except DatabaseError:
        return HttpResponse("the database does not answer\n", content_type="text/plain", status=503)
    return HttpResponse("ok\n", content_type="text/plain")
