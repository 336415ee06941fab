"""The page that a teacher begins with."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.progress import today
from lauf.progress.today import Today

router = Router(tags=["progress"])


@router.get("/today", response=Today)
def get_today(request: HttpRequest) -> Today:
    return today.today_page(signed_in_staff(request), timezone.now())
