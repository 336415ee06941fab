"""Who signs in, and by what they prove who they are."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from lauf.messages import say
from lauf.people.models.school import School
from lauf.people.usernames import key_of


class Staff(AbstractBaseUser):
    """A person who signs in."""

    class Role(models.TextChoices):
        HEAD = "head", say("Head of PE")
        TEACHER = "teacher", say("Teacher")

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="staff")
    username = models.CharField(max_length=60, unique=True)
    name = models.CharField(max_length=120)
    role = models.CharField(max_length=10, choices=Role, default=Role.TEACHER)
    is_active = models.BooleanField(default=True)
    # Height, weight and what follows from them are nobody else's business.
    may_see_growth = models.BooleanField(default=False)
    # Tests, ladders, norms and batteries, which the whole school shares.
    may_edit_tests = models.BooleanField(default=True)
    # Every class and child, to look after and to stand in for a colleague.
    may_see_school = models.BooleanField(default=False)
    # In the office of a trust: sums of its schools, and nothing of any child.
    at_office = models.BooleanField(default=False, db_default=False)
    # Where links are sent to, if the school has a mail server.
    email = models.EmailField(blank=True)
    # SHA-256 of the private part of the calendar's address.
    calendar_proof = models.CharField(max_length=64, blank=True, db_index=True)
    # Counted up to end every session but one's own.
    sessions_from = models.PositiveIntegerField(default=0)

    USERNAME_FIELD = "username"
    REQUIRED_FIELDS: ClassVar = ["name"]
    objects = BaseUserManager["Staff"]()

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="staff_role_is_known", condition=models.Q(role__in=["head", "teacher"])
            ),
            models.UniqueConstraint(key_of("username"), name="staff_username_once"),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def is_head(self) -> bool:
        return self.role == self.Role.HEAD

    @property
    def sees_school(self) -> bool:
        """Whether all classes are in scope, not only the own ones."""
        return self.is_head or self.may_see_school

    def get_session_auth_hash(self) -> str:
        """What a session is bound to: the password, and which sessions are still wanted."""
        plain = super().get_session_auth_hash()
        return plain if not self.sessions_from else f"{plain}.{self.sessions_from}"


class Invitation(models.Model):
    """A link by which a person sets their own password, once: to begin, or after losing one. The
    link itself is kept nowhere, only what proves it."""

    staff = models.OneToOneField(
        Staff, on_delete=models.CASCADE, primary_key=True, related_name="invitation"
    )
    # SHA-256 of the link's token.
    proof = models.CharField(max_length=64, unique=True)
    expires_at = models.DateTimeField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"link for {self.staff}"


class SecondFactor(models.Model):
    """What proves a person beside the password: a secret that makes a new code every half minute
    (TOTP), and codes on paper for the day the phone is lost. It asks only once it is proved."""

    staff = models.OneToOneField(
        Staff, on_delete=models.CASCADE, primary_key=True, related_name="second_factor"
    )
    secret = models.CharField(max_length=64)
    proved_at = models.DateTimeField(null=True, blank=True)
    # The half minute whose code was used last: a code works once.
    last_step = models.BigIntegerField(default=0)
    # SHA-256 of the codes on paper that were not used yet.
    papers = models.JSONField(default=list, blank=True)

    def __str__(self) -> str:
        return f"second factor of {self.staff}"


class SignIn(models.Model):
    """One device that somebody signed in on. It lasts as long as its session does."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    staff = models.ForeignKey(Staff, on_delete=models.CASCADE, related_name="sign_ins")
    session_key = models.CharField(max_length=40, unique=True)
    # What the browser says it is, in a few words.
    device = models.CharField(max_length=80)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-at"]

    def __str__(self) -> str:
        return f"{self.staff} on {self.device}"
