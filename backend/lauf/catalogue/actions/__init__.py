"""Every write about tests and benchmarks, one module a noun."""

from lauf.catalogue.actions.batteries import make_battery
from lauf.catalogue.actions.courses import delete_course, save_course
from lauf.catalogue.actions.ladders import (
    copy_ladder,
    delete_ladder,
    save_ladder,
)
from lauf.catalogue.actions.norms import (
    delete_norm,
    import_norm,
    norm_unit_size,
)
from lauf.catalogue.actions.ready import (
    REFERENCE,
    SURVEY_TESTS,
    install_ready,
)
from lauf.catalogue.actions.tests import (
    edit_protocol,
    in_seconds,
    make_test,
    preview_edit,
)

__all__ = [
    "REFERENCE",
    "SURVEY_TESTS",
    "copy_ladder",
    "delete_course",
    "delete_ladder",
    "delete_norm",
    "edit_protocol",
    "import_norm",
    "in_seconds",
    "install_ready",
    "make_battery",
    "make_test",
    "norm_unit_size",
    "preview_edit",
    "save_course",
    "save_ladder",
]
