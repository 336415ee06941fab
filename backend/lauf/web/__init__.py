"""Settings, addresses, the assembled API, sign-in and security headers."""
