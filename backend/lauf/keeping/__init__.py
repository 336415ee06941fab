"""What keeps a school's data: backups, and the proof that they can be used."""
