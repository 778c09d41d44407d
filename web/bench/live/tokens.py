"""What lets a page ask for live answers without a look into the database: a signed word on who sees which revision."""

from dataclasses import dataclass
from typing import Final

from django.contrib.auth.models import AbstractBaseUser
from django.core import signing

SALT: Final = "kagami.live"
SECONDS: Final = 3600
"""Each change brings a new one; a page that rests longer asks the server for one by a plain request."""


class Stale(ValueError):
    """No token of ours, or one that is too old."""


@dataclass(frozen=True)
class Seen:
    """Who sees which revision of which mark."""

    user: int
    mark: int
    revision: int
    studio: int
    """Whose mark it is."""


def token_for(user: AbstractBaseUser, mark: int, revision: int, studio: int) -> str:
    """The token of somebody who may see a revision; that is for the caller to know."""
    return signing.dumps([user.pk, mark, revision, studio], salt=SALT)


def seen_by(token: str) -> Seen:
    """What a token says.

    Raises:
        Stale: it is none of ours, or too old.
    """
    try:
        user, mark, revision, studio = signing.loads(token, salt=SALT, max_age=SECONDS)
    except (signing.BadSignature, ValueError, TypeError) as error:
        raise Stale("The page was open for long. It asks anew.") from error
    return Seen(user, mark, revision, studio)
