"""Where somebody is signed in."""

from __future__ import annotations

from django.db.models import F

from lauf.people.models import SignIn, Staff


def end_sign_ins(person: Staff) -> None:
    """Forget every device somebody is signed in on, also as who they are in other schools: those
    sessions end. Their own end with the password, or as `sessions_from` grows. Three queries."""
    posts = Staff.objects.filter(second_post__account=person)
    SignIn.objects.filter(staff__in=[person.pk, *posts.values_list("pk", flat=True)]).delete()
    posts.update(sessions_from=F("sessions_from") + 1)
