"""Documents to begin from, with plausible invented numbers."""

from __future__ import annotations

from importlib.resources import files

from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.read import read_build
from config.errors import NotFound

from builds.schemas import TemplateOut

_FOLDER = files("bilge_core.document").joinpath("templates")
_KEYS = (
    "inline-front-sump", "inline-rear-sump", "vee-rear-sump", "transverse-four", "flat-six",
)  # fmt: skip


def templates() -> list[TemplateOut]:
    """The templates, in the order offered."""
    rows = []
    for key in _KEYS:
        document = template_document(key)
        rows.append(TemplateOut(key=key, name=document.name, words=document.notes))
    return rows


def template_document(key: str) -> BuildDocument:
    """One template.

    Raises
    ------
    NotFound
        If there is no such template.
    """
    if key not in _KEYS:
        raise NotFound("template")
    return read_build(_FOLDER.joinpath(f"{key}.json").read_bytes())
