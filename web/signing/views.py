"""The account's page, and what is answered when signing in is tried too often."""

from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods

from web.marks.access import brands_of, marks_of
from web.signing.removal import remove_account


@require_http_methods(["GET", "HEAD", "POST"])
def account(request: HttpRequest) -> HttpResponse:
    """Whose account it is; with its password it can be removed with all that it owns."""
    fault = ""
    if request.method == "POST":
        user = request.user
        if user.check_password(request.POST.get("password", "")):
            logout(request)
            remove_account(user)
            return redirect("sign-in")
        fault = _("This is not the password of the account. Nothing was removed.")
    marks = marks_of(request.user).count()
    context = {"brands": brands_of(request.user).count(), "marks": marks, "fault": fault}
    return render(request, "signing/account.html", context, status=422 if fault else 200)


def locked_out(request: HttpRequest, _response: object = None, _credentials: object = None) -> HttpResponse:
    """Too many wrong passwords for one name from one address."""
    return render(request, "signing/locked_out.html", status=429)
