"""What the templates of paper say, in the language of this installation: `{% say "Child" %}`."""

from __future__ import annotations

from typing import Final

from django import template
from django.utils.html import conditional_escape

from lauf.messages import say

register: Final = template.Library()


@register.simple_tag(name="say")
def say_tag(message: str, **named: object) -> str:
    """A message of the catalogue, with what stands in its braces; escaped as a whole."""
    return conditional_escape(say(message, **named))
