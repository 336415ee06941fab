"""What scores mean: today, children, classes and the school."""

from lauf.api.progress import (
    board,
    explanation,
    lesson_summary,
    next_steps,
    pupils,
    results,
    school,
    targets,
    today,
)

ROUTERS = [
    one.router
    for one in (
        board,
        explanation,
        lesson_summary,
        next_steps,
        pupils,
        results,
        school,
        targets,
        today,
    )
]
