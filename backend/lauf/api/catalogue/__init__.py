"""Tests and what they are judged by."""
