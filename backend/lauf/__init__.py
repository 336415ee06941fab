"""Lauf: fitness tests and timed challenges for primary schools."""

#: The version that is being worked on: what stands under "Unreleased" in CHANGELOG.md.
__version__ = "0.5.0"
