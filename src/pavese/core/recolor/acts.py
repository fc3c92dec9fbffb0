"""The table of acts, told to the interface and to the shell; a format says which of them its files can be given."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping
from enum import StrEnum
from typing import Annotated, Any, ClassVar, NamedTuple

from pydantic import BeforeValidator, SerializeAsAny, ValidationError

from pavese.core.errors import InvalidPlanError
from pavese.core.kit.role import Role
from pavese.core.recolor.act import Act
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.faces import KitTypefaces
from pavese.core.recolor.pictures import PictureGrounds
from pavese.core.recolor.pixels import AS_A_WHOLE, PhotographTones, PictureGround, WithoutMetadata
from pavese.core.recolor.pointed import HeadlineRoom, ObjectColors, PictureParts
from pavese.core.recolor.samples import Samples
from pavese.core.recolor.typed import TypedCodes


class Namespace(Act):
    """The declaration that an SVG lacks, written into its root element."""

    key: ClassVar[str] = "namespace"
    title: ClassVar[str] = "Namespace"
    words: ClassVar[str] = "write xmlns into what is handed over"
    shows: ClassVar[bool] = False
    remedies: ClassVar[str] = "Its svg element does not say xmlns, so browsers and other programs may not show it."


#: By key.
ACTS: dict[str, type[Act]] = {
    one.key: one
    for one in (
        FileBacking,
        Namespace,
        DarkScheme,
        KitTypefaces,
        PictureGrounds,
        Samples,
        TypedCodes,
        PhotographTones,
        ObjectColors,
        PictureParts,
        PictureGround,
        HeadlineRoom,
        WithoutMetadata,
    )
}


def suited(keys: Iterable[str], remarks: Collection[str]) -> tuple[str, ...]:
    """Which acts, of those that a format's files can be given, one can be given of which this is said."""
    whole = not AS_A_WHOLE.isdisjoint(remarks)
    return tuple(key for key in keys if not (whole and ACTS[key].still))


class FieldKind(StrEnum):
    """How a setting is chosen."""

    CHOICE = "choice"
    COLOR = "color"
    NUMBER = "number"


class ActField(NamedTuple):
    """A setting of an act, for those who choose it; `options` of a choice, `least` and `most` of a number."""

    name: str
    title: str
    words: str
    kind: FieldKind
    options: tuple[str, ...] = ()
    least: int | None = None
    most: int | None = None
    default: str | int | None = None
    #: The role of the color that is proposed; the first color of the kit where there is none in it.
    role: Role | None = None
    #: The options of the first choice with which it counts; with all, where none is told.
    only: tuple[str, ...] = ()


def fields_of(kind: type[Act]) -> Iterator[ActField]:
    """The settings of an act in their order; colors are those whose default is left open. What is said of things in a
    file one by one is no setting."""
    for name, field in kind.model_fields.items():
        if field.default_factory is not None:
            continue
        told = (field.title or name, field.description or "")
        more = field.json_schema_extra if isinstance(field.json_schema_extra, dict) else {}
        listed = more.get("only")
        only = tuple(map(str, listed)) if isinstance(listed, list) else ()
        default = None if field.is_required() else field.default
        if isinstance(default, StrEnum):
            yield ActField(name, *told, FieldKind.CHOICE, tuple(type(default)), default=default.value, only=only)
        elif isinstance(default, int):
            bounds = {key: getattr(one, key) for one in field.metadata for key in ("ge", "le") if hasattr(one, key)}
            yield ActField(name, *told, FieldKind.NUMBER, (), bounds.get("ge"), bounds.get("le"), default, only=only)
        else:
            role = more.get("role")
            yield ActField(name, *told, FieldKind.COLOR, role=Role(role) if isinstance(role, str) else None, only=only)


def read_act(key: str, settings: Mapping[str, Any]) -> Act:
    """The act of that kind with these settings. Raises InvalidPlanError."""
    if key not in ACTS:
        raise InvalidPlanError(f"There is no act “{key[:40]}”; there are {', '.join(ACTS)}.")
    try:
        return ACTS[key].model_validate(settings)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"]))
        raise InvalidPlanError(f"{ACTS[key].title}: {where}: {first['msg']}.") from error


def _known(value: object) -> object:
    """Settings as acts; those of a kind that is there no longer are left out."""
    if not isinstance(value, Mapping):
        return value
    return {
        key: ACTS[key].model_validate(one) if isinstance(one, Mapping) else one
        for key, one in value.items()
        if key in ACTS
    }


#: What files are given, by the kind of act.
Acts = Annotated[dict[str, SerializeAsAny[Act]], BeforeValidator(_known)]
#: The same for one file; None takes away what all files are given.
OwnActs = Annotated[dict[str, SerializeAsAny[Act] | None], BeforeValidator(_known)]
