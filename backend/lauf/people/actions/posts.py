"""Somebody who works in two schools of one Lauf: one password, and the choice at sign-in."""

from __future__ import annotations

from django.db import transaction

from lauf.errors import Refused
from lauf.messages import say
from lauf.people.actions.audit_log import log
from lauf.people.actions.sign_ins import end_sign_ins
from lauf.people.actions.staff import NO_LINK, invited
from lauf.people.models import Change, Invitation, SecondFactor, SecondPost, Staff
from lauf.people.queries import account_of
from lauf.people.tokens import token_hash


@transaction.atomic
def take_second_post(token: str, account: Staff) -> Staff:
    """Take up a link without a password of one's own: who has proved to be `account` signs in as
    both from now on. Raises Refused."""
    post = invited(token)
    account = account_of(account)
    if post.school_id == account.school_id or SecondPost.objects.filter(account=post).exists():
        raise Refused(say("Choose a password for this school instead."))
    taken, _ = Invitation.objects.filter(staff=post, proof=token_hash(token)).delete()
    if not taken:
        raise Refused(NO_LINK)
    SecondPost.objects.update_or_create(post=post, defaults={"account": account})
    post.set_unusable_password()
    post.sessions_from += 1
    post.save(update_fields=["password", "sessions_from"])
    SecondFactor.objects.filter(staff=post).delete()
    end_sign_ins(post)
    words = say("{name} signs in with an account they already have", name=post.name)
    log(post, Change.What.STAFF, words, post.id)
    return post
