"""An act: what more than color a file is given, chosen by a person."""

from __future__ import annotations

from typing import ClassVar

from pydantic import BaseModel, ConfigDict


class Act(BaseModel):
    """The settings of an act; each kind is a class of its own, and an entry of `acts.ACTS`.

    `title` and `words` say what it is; `shows` whether pictures tell it from a file without it; `remedies` is the
    remark on a file that it answers, "" for one that any file can be given. `offered` ones are chosen field by
    field, others have a place of their own; `darkens` says that what everything looks like in the dark is said
    anew; `by_place` that it goes by places of a picture, and not by its colors, so that what paints become is seen
    without it; `still` that it is for pictures of one frame and page. `without` is what a file is called that is
    not given it, where "no" and the title do not say it.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: ClassVar[str]
    title: ClassVar[str]
    words: ClassVar[str]
    shows: ClassVar[bool] = True
    remedies: ClassVar[str] = ""
    offered: ClassVar[bool] = True
    darkens: ClassVar[bool] = False
    by_place: ClassVar[bool] = False
    still: ClassVar[bool] = False
    without: ClassVar[str] = ""

    @property
    def told(self) -> str:
        """How it is done, in a word or two, for the list of what was changed."""
        return self.title.lower()

    @property
    def targets(self) -> tuple[str, ...]:
        """The colors it is made with, as targets."""
        return ()

    @property
    def keeps(self) -> bool:
        """Whether something in a file keeps, by it, colors that go elsewhere in the rest."""
        return False

    @property
    def with_logo(self) -> bool:
        """Whether it puts the kit's logo into a file."""
        return False

    @property
    def ground(self) -> str | None:
        """The target that a drawing stands on after it, where that is another than before."""
        return None
