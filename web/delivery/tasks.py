"""Jobs of the queue. Whoever works them off is a maker (see `makers`); there may be any number, on any machines."""

from procrastinate.contrib.django import app

QUEUE = "packages"


@app.task(queue=QUEUE, name="delivery.make_package")
def make_package(delivery_id: int) -> None:
    """Make the package that was asked for."""
    from django.db import close_old_connections

    from web.delivery.services.making import make

    close_old_connections()  # a maker lives on when the database was started anew
    try:
        make(delivery_id)
    finally:
        close_old_connections()
