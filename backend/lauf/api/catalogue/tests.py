"""Routes for tests and their protocols."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.catalogue import actions, queries
from lauf.catalogue.actions.tests import Effects
from lauf.catalogue.protocol import Protocol
from lauf.catalogue.queries.tests import CataloguePage, ProtocolCard, TestChoice

router = Router(tags=["catalogue"])


class NewTest(Schema):
    name: str = Field(max_length=200)
    family: str = Field("", max_length=20)
    copy_of: UUID | None = None
    protocol: Protocol


class Edit(Schema):
    """The whole protocol as it should be; what differs from version `based_on` is the change."""

    based_on: int
    why: str = Field("", max_length=240)
    protocol: Protocol


@router.get("/catalogue", response=CataloguePage)
def get_catalogue(request: HttpRequest) -> CataloguePage:
    return queries.catalogue_page(signed_in_staff(request))


@router.get("/tests", response=list[TestChoice])
def list_tests(request: HttpRequest) -> list[TestChoice]:
    return queries.test_list(signed_in_staff(request))


@router.get("/tests/{test_id}", response=ProtocolCard)
def get_test(request: HttpRequest, test_id: UUID, children: int = 28) -> ProtocolCard:
    return queries.protocol_card(signed_in_staff(request), test_id, min(60, max(1, children)))


@router.post("/tests", response={201: Made})
def make_test(request: HttpRequest, new: NewTest) -> Any:
    version = actions.make_test(
        signed_in_staff(request),
        name=new.name,
        family=new.family,
        copy_of=new.copy_of,
        protocol=new.protocol,
    )
    return Status(201, {"id": version.test_id})


@router.post("/tests/{test_id}/effects", response=Effects)
def preview_edit(request: HttpRequest, test_id: UUID, edit: Edit) -> Effects:
    """What an edit would do to comparisons; nothing is kept."""
    return actions.preview_edit(signed_in_staff(request), test_id, edit.protocol)


@router.post("/tests/{test_id}/versions", response={201: ProtocolCard})
def edit_protocol(request: HttpRequest, test_id: UUID, edit: Edit) -> Any:
    staff = signed_in_staff(request)
    actions.edit_protocol(staff, test_id, edit.protocol, why=edit.why, based_on=edit.based_on)
    return Status(201, queries.protocol_card(staff, test_id))
