"""School, staff, class, pupil, house; consent and medical notes."""
