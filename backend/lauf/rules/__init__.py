"""The rules of the job: pure functions on plain values.

No Django, no input or output, no clock of their own. Every other part may import
this package; it imports none of them.

Canonical units, always exact integers: a count is a number of repetitions, a time is
milliseconds, a length is millimetres.
"""
