"""The Shelf's pages."""

from dataclasses import dataclass

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.bench.mirror import Picture, picture_of
from web.marks.access import brand_of
from web.marks.models import Brand, Mark
from web.marks.services.evaluation import evaluated
from web.marks.services.shelving import NameTaken, make_brand, make_mark
from web.shelf.forms import BrandForm, MarkForm


@dataclass(frozen=True)
class Card:
    """A mark on the Shelf, with its live picture."""

    mark: Mark
    picture: Picture
    sound: bool


@require_GET
def shelf(request: HttpRequest) -> HttpResponse:
    """All brands and marks."""
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
        return redirect("bench", make_mark(brand, form.cleaned_data["plan"]).id)
    return render(request, "shelf/new_mark.html", {"brand": brand, "form": form}, status=422)


def _shelf(request: HttpRequest, form: BrandForm, status: int = 200) -> HttpResponse:
    brands = Brand.objects.filter(owner=request.user).prefetch_related("marks__current")
    rows = [(brand, [_card(mark) for mark in brand.marks.all()]) for brand in brands]
    return render(request, "shelf/shelf.html", {"rows": rows, "form": form}, status=status)


def _card(mark: Mark) -> Card:
    result = evaluated(mark.current.read())
    return Card(mark, picture_of(result), result.sound)
