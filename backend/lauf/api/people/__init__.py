"""Children, classes, staff and the school's settings."""
