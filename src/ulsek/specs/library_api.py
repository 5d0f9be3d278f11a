"""The library over HTTP: finding, starting, reading and exporting specs in open forms."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Query, Router, Status, UploadedFile

from ulsek.computing import in_time
from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import LOCALES, Locale
from ulsek.core.recipe_text.given import Given, given
from ulsek.core.recipe_text.open_forms import ReadPart, Understood, read_any, read_many
from ulsek.core.recipe_text.templates import School, schools_of
from ulsek.core.recipe_text.together import SharedQuestion, answered_together, shared_questions
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.workbench.questions import SpecForm
from ulsek.stores.queries import described
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of

from .actions.ask_questions import ask_questions
from .actions.attach_file import attach_file, remove_attachment
from .actions.branch_spec import start_variant
from .actions.start_spec import NewSpec, start_spec
from .archived import read_specs, specs_in
from .export import FORMS, exported
from .library import ORDERS, found, rows, tree, with_newest
from .library_schemas import (
    AttachmentOut,
    DraftsIn,
    GiveIn,
    LibrarySlice,
    ReadIn,
    SharedAnswerIn,
    SpecQuery,
    SpecRow,
    SpecSettings,
    SpecSettingsOut,
    StartSpec,
    TreesOut,
)
from .models import Attachment, Spec

router = Router(tags=["library"])
MOST_FILE = 4_000_000
"""Bytes of a file that is sent up."""


def _spec(request: HttpRequest, spec_id: UUID) -> tuple[Member, Spec]:
    member = member_of(request)
    return member, get_object_or_404(Spec.objects.select_related("house", "newest"), pk=spec_id, house=member.house)


@router.get("/specs", response=answers(LibrarySlice))
def specs(request: HttpRequest, asked: Query[SpecQuery]) -> LibrarySlice:
    """Returns the specs of the house that match the filters, by family and name, each with its newest version."""
    matching = found(member_of(request).house, asked)
    shown = slice_of(with_newest(matching), ORDERS[asked.order], asked)
    return LibrarySlice(items=rows(shown.items), next=shown.next, total=matching.count())


@router.post("/specs", response={201: answers(SpecRow)})
def start(request: HttpRequest, payload: StartSpec) -> Status[SpecRow]:
    """Starts a spec from its family's template, from a body, or as a variant of another."""
    member = member_of(request)
    if payload.variant_of:
        spec = start_variant(member, get_object_or_404(Spec, pk=payload.variant_of, house=member.house), payload.name)
    else:
        spec = start_spec(member, NewSpec(payload.name, payload.family, payload.school), payload.body)
    return Status(201, rows(with_newest(Spec.objects.filter(pk=spec.pk)))[0])


@router.get("/families/{family}/schools", response=answers(tuple[School, ...]))
def schools(request: HttpRequest, family: str) -> list[School]:
    """The schools of making a family, with what each costs and gains."""
    member_of(request)
    return list(schools_of(family))


@router.post("/read", response=answers(Understood))
def read(request: HttpRequest, payload: ReadIn) -> Understood:
    """What is understood of a spec file, a recipe file, a page or a pasted recipe: the first, where there are several. Nothing is stored."""
    return in_time(read_any, *_asked(request, payload))


@router.post("/read-many", response=answers(tuple[ReadPart, ...]))
def read_several(request: HttpRequest, payload: ReadIn) -> list[ReadPart]:
    """The recipes of a text, a page, a file or a table, each read by itself or refused in words. Nothing is stored."""
    return list(in_time(read_many, *_asked(request, payload)))


@router.post("/read-archive", response=answers(tuple[ReadPart, ...]))
def read_archive(request: HttpRequest, file: File[UploadedFile]) -> list[ReadPart]:
    """The specs of another house's archive, each read by itself or refused in words. Nothing is stored."""
    house = member_of(request).house
    if (file.size or 0) > MOST_FILE:
        raise Refusal(message("The archive is too large"), "file", message("at most 4 MB"), message("Take the library's alone"), "too_long")
    return list(in_time(read_specs, in_time(specs_in, file.read()), described(house)))


def _asked(request: HttpRequest, payload: ReadIn) -> tuple[str, Mapping[str, Any], Locale, Mapping[str, Any], Mapping[str, str]]:
    """Returns a text with what a house reads it by: its materials, the locale, its vague words and its shelf. Raises Refusal for what is no locale."""
    house = member_of(request).house
    if payload.locale not in LOCALES:
        raise Refusal(
            message("“{locale}” is no locale", locale=payload.locale),
            "locale",
            message("choose one of {locales}", locales=listed(LOCALES, "comma")),
        )
    rules = read_rules(house.rules)
    return payload.text, described(house), payload.locale, rules.words["words"], rules.shelf


@router.post("/given", response=answers(Given))
def give_phrase(request: HttpRequest, payload: GiveIn) -> Given:
    """Returns a draft with a phrase of its text assigned to a step. Nothing is stored."""
    house = member_of(request).house
    rules = read_rules(house.rules)
    return given(payload.spec, (payload.start, payload.end), payload.step, described(house), rules.words["words"], rules.shelf)


@router.post("/shared-questions", response=answers(tuple[SharedQuestion, ...]))
def questions_of_several(request: HttpRequest, payload: DraftsIn) -> list[SharedQuestion]:
    """The open questions of several drafts as one list, each asked once. Nothing is stored."""
    member_of(request)
    return list(shared_questions(payload.specs))


@router.post("/answered-together", response=answers(tuple[SpecForm, ...]))
def answer_several(request: HttpRequest, payload: SharedAnswerIn) -> list[SpecForm]:
    """Several drafts with a shared question answered in all of them. Nothing is stored."""
    member_of(request)
    return [SpecForm(body) for body in answered_together(payload.specs, payload.key, payload.answer)]


@router.get("/specs/{spec_id}/tree", response=answers(TreesOut))
def trees(request: HttpRequest, spec_id: UUID) -> TreesOut:
    """What this spec is made with, and what is made with it."""
    return tree(_spec(request, spec_id)[1])


@router.put("/specs/{spec_id}/settings", response=answers(SpecSettingsOut))
def settings(request: HttpRequest, spec_id: UUID, payload: SpecSettings) -> SpecSettingsOut:
    """Sets whether staff answer three questions before their first batch of it."""
    spec = ask_questions(member_of(request), spec_id, on=payload.asks_questions)
    return SpecSettingsOut(spec.asks_questions)


@router.get("/specs/{spec_id}/export", response={200: None})
def export(request: HttpRequest, spec_id: UUID, form: str = "ulsek") -> HttpResponse:
    """The spec as an Ulsek file, a Recipe in JSON-LD, or a card in Markdown."""
    member, spec = _spec(request, spec_id)
    if form not in FORMS:
        raise Refusal(
            message("There is no form “{form}”", form=form),
            "form",
            message("there are {forms}", forms=listed(FORMS, "comma")),
            message("Choose one of them"),
        )
    kind, ending = FORMS[form]
    answer = HttpResponse(exported(member.house, spec, form), content_type=kind)
    answer["Content-Disposition"] = f'attachment; filename="{spec.key}.{ending}"'
    return answer


def _attachment_row(item: Attachment) -> AttachmentOut:
    return AttachmentOut(id=item.pk, name=item.name, media_type=item.media_type, by=item.by.display_name, at=item.at)


@router.get("/specs/{spec_id}/attachments", response=answers(Slice[AttachmentOut]))
def attachments(request: HttpRequest, spec_id: UUID, asked: Query[ListQuery]) -> Slice[AttachmentOut]:
    """Returns the files of a spec without their contents, the oldest first."""
    files = _spec(request, spec_id)[1].attachments.filter(holding(asked.find, "name")).select_related("by").defer("data")
    return slice_of(files, ("at", "name", "pk"), asked).each(_attachment_row)


@router.post("/specs/{spec_id}/attachments", response={201: answers(AttachmentOut)})
def attach(request: HttpRequest, spec_id: UUID, file: File[UploadedFile]) -> Status[AttachmentOut]:
    """Stores a small file with a spec."""
    member, spec = _spec(request, spec_id)
    if (file.size or 0) > MOST_FILE:
        raise Refusal(message("The file is too large"), "file", message("at most 2 MB"), message("Take a smaller picture"), "too_long")
    return Status(201, _attachment_row(attach_file(member, spec, file.name or "file", file.content_type or "", file.read())))


@router.get("/attachments/{attachment_id}", response={200: None})
def attachment(request: HttpRequest, attachment_id: int) -> HttpResponse:
    """One file, as it was uploaded; a browser never runs it."""
    item = get_object_or_404(Attachment, pk=attachment_id, spec__house=member_of(request).house)
    answer = HttpResponse(bytes(item.data), content_type=item.media_type)
    answer["Content-Disposition"] = "attachment"
    answer["Content-Security-Policy"] = "sandbox"
    return answer


@router.delete("/attachments/{attachment_id}", response={204: None})
def take_attachment_away(request: HttpRequest, attachment_id: int) -> Status[None]:
    """Deletes a file."""
    remove_attachment(member_of(request), attachment_id)
    return Status(204, None)
