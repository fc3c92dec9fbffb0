"""The words that previews and sheets are set in: the company's own, or what its name makes of them."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field


class Samples(BaseModel):
    """A headline, a sentence and the words on a button; empty where none is said."""

    model_config = ConfigDict(frozen=True)

    headline: str = Field(default="", max_length=60)
    sentence: str = Field(default="", max_length=160)
    action: str = Field(default="", max_length=30)

    def of(self, name: str) -> Samples:
        """The same with all three said, for a kit of this name."""
        return Samples(
            headline=self.headline or name[:60],
            sentence=self.sentence or "A line of plain text, as it is read every day, with 0123456789.",
            action=self.action or "Read more",
        )
