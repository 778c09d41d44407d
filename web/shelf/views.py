"""The Shelf's pages."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from web.marks.access import brand_of, brands_of, mark_of
from web.marks.models import Brand
from web.marks.services import shelving
from web.marks.services.shelving import NameTaken, make_brand, make_mark
from web.shelf.forms import BrandForm, MarkForm
from web.sketches.services import copy_under


@require_safe
def shelf(request: HttpRequest) -> HttpResponse:
    """All brands and marks, the newest brand first."""
    return _shelf(request, BrandForm())


@require_POST
def new_brand(request: HttpRequest) -> HttpResponse:
    """Make a brand."""
    form = BrandForm(request.POST)
    if not form.is_valid():
        return _shelf(request, form, status=422)
    try:
        brand = make_brand(request.user, form.cleaned_data["name"])
    except NameTaken as error:
        form.add_error("name", str(error))
        return _shelf(request, form, status=422)
    return redirect("new-mark", brand.id)


@require_http_methods(["GET", "POST"])
def new_mark(request: HttpRequest, brand_id: int) -> HttpResponse:
    """Make a mark of a brand."""
    brand = brand_of(request.user, brand_id)
    if request.method != "POST":
        return render(request, "shelf/new_mark.html", {"brand": brand, "form": MarkForm()})
    form = MarkForm(request.POST, request.FILES)
    if form.is_valid():
        return redirect("bench", make_mark(request.user, brand, form.cleaned_data["plan"]).id)
    return render(request, "shelf/new_mark.html", {"brand": brand, "form": form}, status=422)


@require_http_methods(["GET", "POST"])
def brand(request: HttpRequest, brand_id: int) -> HttpResponse:
    """A brand's own page: its name can be changed."""
    found = brand_of(request.user, brand_id)
    if request.method != "POST":
        return _brand(request, found, BrandForm({"name": found.name}))
    form = BrandForm(request.POST)
    if form.is_valid():
        try:
            shelving.rename_brand(request.user, found, form.cleaned_data["name"])
            return redirect(f"{reverse('shelf')}#brand-{found.id}")
        except NameTaken as error:
            form.add_error("name", str(error))
    return _brand(request, brand_of(request.user, brand_id), form, status=422)


@require_POST
def remove_brand(request: HttpRequest, brand_id: int) -> HttpResponse:
    """Remove a brand that has no marks."""
    found = brand_of(request.user, brand_id)
    try:
        shelving.remove_brand(request.user, found)
    except shelving.HasMarks as error:
        return _brand(request, found, BrandForm({"name": found.name}), str(error), 422)
    return redirect("shelf")


@require_POST
def copy_mark(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Begin a new mark where this one stands, over the same sketch."""
    mark = mark_of(request.user, mark_id)
    made = shelving.copy_mark(request.user, mark)
    copy_under(request.user, mark, made)
    return redirect("bench", made.id)


@require_http_methods(["GET", "POST"])
def remove_mark(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Ask, and then remove a mark."""
    mark = mark_of(request.user, mark_id)
    if request.method != "POST":
        return render(request, "shelf/remove_mark.html", {"mark": mark})
    shelving.remove_mark(request.user, mark)
    return redirect("shelf")


def _brand(request: HttpRequest, found: Brand, form: BrandForm, fault: str = "", status: int = 200) -> HttpResponse:
    context = {"brand": found, "form": form, "fault": fault, "empty": not found.marks.exists()}
    return render(request, "shelf/brand.html", context, status=status)


def _shelf(request: HttpRequest, form: BrandForm, status: int = 200) -> HttpResponse:
    brands = brands_of(request.user).order_by("-created", "-id").prefetch_related("marks__current")
    return render(request, "shelf/shelf.html", {"brands": brands, "form": form}, status=status)
