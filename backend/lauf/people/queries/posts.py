"""As whom somebody can sign in who works in several schools."""

from __future__ import annotations

from lauf.people.models import SecondPost, Staff


def posts_of(account: Staff) -> list[Staff]:
    """Whom somebody can sign in as: themselves, and who they are in other schools, by school. One
    query."""
    held = Staff.objects.filter(second_post__account=account, is_active=True)
    others = held.select_related("school").order_by("school__name", "username")
    return [account, *others]


def account_of(staff: Staff) -> Staff:
    """By whose password and second factor somebody signs in. One query."""
    found = SecondPost.objects.filter(post=staff).select_related("account").first()
    return staff if found is None else found.account
