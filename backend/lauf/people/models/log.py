"""Who changed what, and who looked at what."""

from __future__ import annotations

from typing import ClassVar

from django.db import models

from lauf.messages import say
from lauf.people.models.school import School
from lauf.people.models.staff import Staff


class Change(models.Model):
    """One line of the school's audit log: who changed what, and when. Append-only.

    about  the id of what was changed, as text; `words` say it as it stood then
    """

    class What(models.TextChoices):
        PERMISSION = "permission", say("Permission")
        STAFF = "staff", say("Staff")
        UNITS = "units", say("Units")
        CLASS = "class", say("Class")
        PUPIL = "pupil", say("Child")
        TEST = "test", say("Test")
        PROTOCOL = "protocol", say("Protocol")
        LADDER = "ladder", say("Ladder")
        NORM = "norm", say("Norm table")
        BATTERY = "battery", say("Battery")
        COURSE = "course", say("Course")
        PLAN = "plan", say("Plan")
        LESSON = "lesson", say("Lesson")
        CHALLENGE = "challenge", say("Challenge")
        GAMES = "games", say("Games")
        POINTS = "points", say("Points")
        SCHOOL = "school", say("School")
        CARE = "care", say("Care for data")
        SEEN = "seen", say("Looked at")

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
