"""What was typed, taken apart: one reader for each kind of score, in `lauf.rules.reading.kinds`.

Readers get plain lower-case ASCII from `entry`, which knows reasons, estimates, commas and limits.
A reader returns what a careful reader would read, or raises `Unreadable`: it never bends.
"""
