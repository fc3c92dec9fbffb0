"""Values that stand for code in pictures of a template, so that it is seen as its readers will."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field

from pavese.core.recolor.act import Act

#: Values of one set, and the longest of them.
MOST, LONGEST = 60, 400


class Samples(Act):
    """What is shown in the place of code, by what the code says it puts there; nothing of it is handed over."""

    key: ClassVar[str] = "samples"
    title: ClassVar[str] = "Sample values"
    words: ClassVar[str] = "what is shown in the place of code"
    offered: ClassVar[bool] = False

    values: dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=LONGEST)]] = Field(
        default_factory=dict, max_length=MOST, title="Values"
    )

    @property
    def told(self) -> str:
        return f"for {len(self.values)} code{'s' * (len(self.values) > 1)}"
