"""Writing a data package."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
from typing import Final

from django.db import connection, transaction

from lauf.exchange.package.tables import Table, tables
from lauf.exchange.package.unpack import FORMAT
from lauf.messages import say
from lauf.people.models import School
from lauf.plain_json import JsonObject

#: The same school is the same bytes: no file says when it was packed.
_NO_DAY: Final = (1980, 1, 1, 0, 0, 0)


def write_package(school: School) -> bytes:
    """The whole school as a zip: `datapackage.json` and a CSV file (RFC 4180, UTF-8) a table, all
    as of one moment. One query a table."""
    on_its_own = not connection.in_atomic_block
    with transaction.atomic():
        if on_its_own:
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        return _packed(school)


def _packed(school: School) -> bytes:
    files: dict[str, bytes] = {}
    resources = []
    for table in tables():
        text = io.StringIO()
        writer = csv.writer(text, lineterminator="\r\n")
        writer.writerow(table.columns)
        writer.writerows(table.lines(school))
        packed = text.getvalue().encode()
        files[table.file] = packed
        resources.append(_resource(table, packed))
    about = {
        "profile": "tabular-data-package",
        "name": "lauf-school",
        "title": school.name,
        "description": say(
            "A school's children, tests, scores and everything around them. It holds "
            "names and health notes of children, so keep it as safe as the school's "
            "papers."
        ),
        "lauf_format": FORMAT,
        "resources": resources,
    }
    described = json.dumps(about, ensure_ascii=False, indent=1) + "\n"
    whole = io.BytesIO()
    with zipfile.ZipFile(whole, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in [("datapackage.json", described.encode()), *files.items()]:
            entry = zipfile.ZipInfo(name, _NO_DAY)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o600 << 16
            archive.writestr(entry, content)
    return whole.getvalue()


def _resource(table: Table, packed: bytes) -> JsonObject:
    return {
        "profile": "tabular-data-resource",
        "name": table.name,
        "description": table.description,
        "path": table.file,
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        "bytes": len(packed),
        "hash": f"sha256:{hashlib.sha256(packed).hexdigest()}",
        "schema": table.schema(),
    }
