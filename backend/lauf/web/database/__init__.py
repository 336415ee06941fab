"""Django's PostgreSQL, with a pool that is well again at once after the database was away."""
