"""What is kept about a school and the people in it."""

from __future__ import annotations

import uuid
from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from lauf.rules.ages import CutOff


class School(models.Model):
    """One school. Every other row belongs to exactly one."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    # The day on which year groups change; schools differ.
    cut_off_month = models.PositiveSmallIntegerField(default=9)
    cut_off_day = models.PositiveSmallIntegerField(default=1)
    is_demo = models.BooleanField(default=False)
    # Units shown: lengths in cm and m or in feet and inches, weights in kg or lb.
    imperial = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="school_cut_off_is_a_day",
                condition=models.Q(cut_off_month__range=(1, 12), cut_off_day__range=(1, 28)),
            )
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def cut_off(self) -> CutOff:
        return CutOff(self.cut_off_month, self.cut_off_day)


class StaffManager(BaseUserManager["Staff"]):
    """Makes staff with a hashed password."""

    def create_staff(
        self, *, school: School, username: str, name: str, role: str, password: str, **more: Any
    ) -> Staff:
        staff = self.model(school=school, username=username, name=name, role=role, **more)
        staff.set_password(password)
        staff.save(using=self._db)
        return staff


class Staff(AbstractBaseUser):
    """A person who signs in."""

    class Role(models.TextChoices):
        HEAD = "head", "Head of PE"
        TEACHER = "teacher", "Teacher"

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
    # Counted up to end every session but one's own.
    sessions_from = models.PositiveIntegerField(default=0)

    USERNAME_FIELD = "username"
    REQUIRED_FIELDS: ClassVar = ["name"]
    objects = StaffManager()

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="staff_role_is_known", condition=models.Q(role__in=["head", "teacher"])
            )
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def is_head(self) -> bool:
        return self.role == self.Role.HEAD

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


class YearGroup(models.Model):
    """A year group under the school's own name for it (Year 3, Grade 2, Klasse 3)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="year_groups")
    name = models.CharField(max_length=40)
    position = models.PositiveSmallIntegerField()
    # Completed years on the day before the school year begins.
    age = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="year_group_name_once"),
            models.UniqueConstraint(fields=["school", "position"], name="year_group_position_once"),
        ]

    def __str__(self) -> str:
        return self.name


class House(models.Model):
    """A house, told apart by a shape and a letter as well as a name."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="houses")
    name = models.CharField(max_length=40)

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="house_name_once")
        ]

    def __str__(self) -> str:
        return self.name


class SchoolClass(models.Model):
    """A class of children in one year group."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="classes")
    name = models.CharField(max_length=40)
    year_group = models.ForeignKey(YearGroup, on_delete=models.PROTECT, related_name="classes")
    teachers = models.ManyToManyField(Staff, related_name="classes", blank=True)

    class Meta:
        ordering: ClassVar = ["year_group__position", "name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="class_name_once")
        ]

    def __str__(self) -> str:
        return self.name


class Pupil(models.Model):
    """A child. Sex and birth date may be unknown: judgements that need them then say so."""

    class Sex(models.TextChoices):
        FEMALE = "female", "girl"
        MALE = "male", "boy"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="pupils")
    # Nobody's class is a leaver's: it is in no list, plan or lesson any more; its scores stay.
    school_class = models.ForeignKey(
        SchoolClass, on_delete=models.PROTECT, related_name="pupils", null=True, blank=True
    )
    left_on = models.DateField(null=True, blank=True)
    left_from = models.ForeignKey(
        SchoolClass, on_delete=models.PROTECT, related_name="leavers", null=True, blank=True
    )
    house = models.ForeignKey(House, on_delete=models.PROTECT, null=True, blank=True)
    given_name = models.CharField(max_length=60)
    family_name = models.CharField(max_length=60, blank=True)
    born = models.DateField(null=True, blank=True)
    sex = models.CharField(max_length=6, choices=Sex, blank=True)
    # Where the child sits or stands in line, counted from 1; 0 until the class was put in order.
    place = models.PositiveSmallIntegerField(default=0)
    # The school's own number for the child, by which the office's next list finds it again.
    number = models.CharField(max_length=40, blank=True)
    # Short and practical ("inhaler in the red bag"): shown before a lesson starts.
    medical_note = models.CharField(max_length=240, blank=True)

    class Meta:
        ordering: ClassVar = ["place", "given_name", "family_name", "id"]
        indexes: ClassVar = [models.Index(fields=["school_class", "given_name", "family_name"])]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="pupil_is_in_a_class_or_has_left_one",
                condition=models.Q(school_class__isnull=False, left_on=None, left_from=None)
                | models.Q(school_class=None, left_on__isnull=False, left_from__isnull=False),
            ),
            models.UniqueConstraint(
                fields=["school", "number"],
                condition=~models.Q(number=""),
                name="pupil_number_once",
            ),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def name(self) -> str:
        return f"{self.given_name} {self.family_name}".strip()

    @property
    def last_class(self) -> SchoolClass:
        """The class the child is in, or was in when it left."""
        found = self.school_class or self.left_from
        assert found is not None, "a constraint of the database"
        return found


class Change(models.Model):
    """One line of the school's audit log: who changed what, and when. Append-only.

    about  the id of what was changed, as text; `words` say it as it stood then
    """

    class What(models.TextChoices):
        PERMISSION = "permission", "Permission"
        STAFF = "staff", "Staff"
        UNITS = "units", "Units"
        CLASS = "class", "Class"
        PUPIL = "pupil", "Child"
        TEST = "test", "Test"
        PROTOCOL = "protocol", "Protocol"
        LADDER = "ladder", "Ladder"
        NORM = "norm", "Norm table"
        BATTERY = "battery", "Battery"
        COURSE = "course", "Course"
        PLAN = "plan", "Plan"
        LESSON = "lesson", "Lesson"
        CHALLENGE = "challenge", "Challenge"
        POINTS = "points", "Points"

    id = models.BigAutoField(primary_key=True)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="changes")
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=12, choices=What)
    about = models.CharField(max_length=40, blank=True)
    words = models.CharField(max_length=240)

    class Meta:
        ordering: ClassVar = ["-id"]
        indexes: ClassVar = [models.Index(fields=["school", "-id"])]

    def __str__(self) -> str:
        return f"{self.by}: {self.words}"
