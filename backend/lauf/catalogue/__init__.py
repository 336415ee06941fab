"""Tests, their protocol versions, and the ladders they are judged by."""
