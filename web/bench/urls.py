"""Addresses of the Bench."""

from django.urls import path

from web.bench import outlines, sketches, views

urlpatterns = [
    path("", views.bench, name="bench"),
    path("state/", views.state, name="bench-state"),
    path("change/", views.change, name="bench-change"),
    path("back/", views.step_back, name="bench-step-back"),
    path("try/", views.try_out, name="bench-try"),
    path("undo/", views.undo, name="bench-undo"),
    path("redo/", views.redo, name="bench-redo"),
    path("keep/", views.keep, name="bench-keep"),
    path("slip/<slug:kind>/", views.slip, name="bench-slip"),
    path("complete/", views.complete, name="bench-complete"),
    path("checks/", views.checks, name="bench-checks"),
    path("picker/", views.picker, name="bench-picker"),
    path("choices/", views.choices, name="bench-choices"),
    path("outlines/read/", outlines.read, name="bench-outlines-read"),
    path("outlines/bring/", outlines.bring, name="bench-outlines-bring"),
    path("sketch/bring/", sketches.bring, name="bench-sketch-bring"),
    path("sketch/change/", sketches.change, name="bench-sketch-change"),
    path("sketch/line/", sketches.line, name="bench-sketch-line"),
    path("sketch/corners/", sketches.corners, name="bench-sketch-corners"),
    path("sketch/square/", sketches.square, name="bench-sketch-square"),
    path("sketch/pull/", sketches.pull, name="bench-sketch-pull"),
    path("sketch/<int:sketch_id>.jpg", sketches.picture, name="bench-sketch"),
]
