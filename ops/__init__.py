"""What `./lauf` does on a machine: install, build, keep a database, serve, check.

Standard library only: it runs before anything is installed.
"""
