"""What a password must not be."""

from __future__ import annotations

import re
from typing import Final

from django.core.exceptions import ValidationError

from lauf.messages import say
from lauf.people.models import Staff

#: Shorter parts of names stand in too many words.
_SHORTEST: Final = 4


class NotTheName:
    """Django's kind of password validator: no part of the person's or the school's name."""

    def validate(self, password: str, user: Staff | None = None) -> None:
        if user is None:
            return
        plain = password.casefold()
        names = f"{user.name} {user.username} {user.school.name}".casefold()
        for part in re.findall(r"\w+", names):
            if len(part) >= _SHORTEST and part in plain:
                raise ValidationError(
                    say(
                        "A password must not contain your name, your user name or the "
                        "school's name."
                    )
                )

    def get_help_text(self) -> str:
        return say("Do not use your name, your user name or the school's name.")
