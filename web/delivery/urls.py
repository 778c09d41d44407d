"""Addresses of Delivery, below those of a mark; `handed_patterns` are those that clients open."""

from django.urls import path

from web.delivery import handed_views, package_views, views

urlpatterns = [
    path("", views.delivery, name="delivery"),
    path("change/", views.change, name="delivery-change"),
    path("walk/", views.walk, name="delivery-walk"),
    path("file/", views.file, name="delivery-file"),
    path("seen/", views.seen, name="delivery-seen"),
    path("report/", views.report, name="delivery-report"),
    path("proposals/", views.proposals, name="delivery-proposals"),
    path("tiles/", views.tiles, name="delivery-tiles"),
    path("naming/", views.naming, name="delivery-naming"),
    path("mark.svg", views.plain, {"form": "svg"}, name="delivery-svg"),
    path("mark.pdf", views.plain, {"form": "pdf"}, name="delivery-pdf"),
    path("mark.dxf", views.plain, {"form": "dxf"}, name="delivery-dxf"),
    path("mark-<int:size>.png", views.plain_png, name="delivery-png"),
    path("plan.txt", views.text, name="delivery-text"),
    path("plan.json", views.plan, name="delivery-plan"),
    path("packages/", package_views.order, name="package-order"),
    path("packages/progress/", package_views.progress, name="package-progress"),
    path("packages/<int:number>.zip", package_views.take, name="package-take"),
    path("packages/<int:number>/", package_views.act, name="package-act"),
    path("packages/<int:number>/link/", package_views.link, name="package-link"),
]
handed_patterns = [
    path("<str:token>/", handed_views.handed, name="handed"),
    path("<str:token>/package.zip", handed_views.take, name="handed-take"),
]
