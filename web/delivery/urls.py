"""Addresses of Delivery."""

from django.urls import path

from web.delivery import views

urlpatterns = [
    path("", views.delivery, name="delivery"),
    path("mark.svg", views.svg, name="delivery-svg"),
    path("mark-<int:size>.png", views.png, name="delivery-png"),
    path("file/<slug:form>/", views.file, name="delivery-file"),
    path("package.zip", views.package, name="delivery-package"),
    path("plan.txt", views.text, name="delivery-text"),
    path("plan.json", views.plan, name="delivery-plan"),
]
