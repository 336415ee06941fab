"""The rules of the job: pure functions on plain values.

No Django, no input or output, no clock of their own. Every other part may import
this package; it imports none of them.

Rooms, each of which sees only those before it: `reading` (from what is typed to a value, and back),
`body`, `judging` (what a score means), `planning` (a lesson), `contests` (challenges and games).

Canonical units, always exact integers: a count is a number of repetitions, a time is
milliseconds, a length is millimetres.
"""
