"""API routes, one module a noun: parse, call, answer. Names of schemas are unique."""
