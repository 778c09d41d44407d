"""A maker: works off the queue of packages. `serve` keeps one alive beside its workers; further ones may run anywhere.

A maker that ends in the middle, told to or killed, leaves its job behind as if it still worked on it: every maker looks
for such jobs, by the beat that living ones give, and puts them back into the queue.
"""

import asyncio
import contextlib
import logging
import os
import signal
import sys
from typing import Final

import django

BEAT_SECONDS: Final = 2.0
SILENT_SECONDS: Final = 10.0
"""A maker that gave no beat for so long is dead."""
LOOK_SECONDS: Final = 3.0
LOG: Final = logging.getLogger(__name__)


def make_packages(memory: int) -> None:
    """Work off the queue until the process is ended. Files are made in an evaluator of its own."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings")
    django.setup()
    signal.signal(signal.SIGTERM, lambda *_: os._exit(0))  # whatever it was making is taken up again
    from web.evaluation import evaluators

    evaluators.start(1, memory)
    try:
        asyncio.run(_worked_off())
    finally:
        evaluators.stop()


async def _worked_off() -> None:
    from procrastinate.contrib.django import app

    from web.delivery.tasks import QUEUE

    with app.replace_connector(app.connector.get_worker_connector()) as working:
        async with working.open_async():
            looking = asyncio.create_task(_put_back())
            try:
                await working.run_worker_async(
                    queues=[QUEUE],
                    concurrency=1,
                    fetch_job_polling_interval=2.0,
                    update_heartbeat_interval=BEAT_SECONDS,
                    stalled_worker_timeout=SILENT_SECONDS,
                    delete_jobs="always",
                    install_signal_handlers=False,
                )
            finally:
                looking.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await looking


async def _put_back() -> None:
    """Put jobs of dead makers back into the queue, again and again."""
    from procrastinate.contrib.django import app

    while True:
        stalled = await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_SECONDS)
        for job in stalled:
            LOG.warning("job %s was left behind, and is taken up again", job.id)
            await app.job_manager.retry_job(job)
        await asyncio.sleep(LOOK_SECONDS)


if __name__ == "__main__":
    make_packages(int(sys.argv[1]) if sys.argv[1:] else 2000)
