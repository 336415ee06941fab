"""Addresses that somebody gets in by: signing in, codes, links, and the devices they are on."""
