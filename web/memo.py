"""Remember what was drawn, by a key that holds all it was drawn from; each language has its own."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

from django.utils.translation import get_language

T = TypeVar("T")


class Memo(Generic[T]):
    """The last `most` results; threads may share one. Values must not be changed by who gets them."""

    def __init__(self, most: int = 2000) -> None:
        self.most = most
        self._found: OrderedDict[Hashable, T] = OrderedDict()
        self._lock = Lock()

    def clear(self) -> None:
        """Forget all."""
        with self._lock:
            self._found.clear()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """What is remembered under a key, or what `make` makes."""
        key = (get_language(), key)
        with self._lock:
            if key in self._found:
                self._found.move_to_end(key)
                return self._found[key]
        made = make()
        with self._lock:
            self._found[key] = made
            while len(self._found) > self.most:
                self._found.popitem(last=False)
        return made
