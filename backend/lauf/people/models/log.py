"""Who changed what, and who looked at what."""

from __future__ import annotations

from typing import ClassVar

from django.db import models

from lauf.people.models.school import School
from lauf.people.models.staff import Staff


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
        GAMES = "games", "Games"
        POINTS = "points", "Points"
        SCHOOL = "school", "School"
        CARE = "care", "Care for data"
        SEEN = "seen", "Looked at"

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
