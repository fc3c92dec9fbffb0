"""Typefaces as they are shown."""

from __future__ import annotations

from pavese.api.typefaces.schemas import FaceFile, FacePairView, FaceView, LikeView, OwnView, ShippedView, TypeView
from pavese.core.kit.kit import Kit
from pavese.core.kit.typefaces import SHIPPED, StandIn, face_pairs, stand_in
from pavese.render.fonts import SUBSETS


def shipped_views() -> list[ShippedView]:
    """Every typeface that ships."""
    return [
        ShippedView(
            family=face.family,
            kind=face.kind,
            moods=list(face.moods),
            weights=face.weights,
            files=[
                FaceFile(url=f"/api/typefaces/{face.slug}-{subset}.woff2", letters=letters)
                for subset, letters in SUBSETS.items()
            ],
        )
        for face in SHIPPED
    ]


def type_view(kit: Kit, *, outside: bool = False) -> TypeView:
    """The typefaces of a kit, with what stands in for them. To those `outside` a face that was brought along is not
    given on, since few licenses allow that: they see the nearest that ships."""

    def face(found: StandIn | None) -> FaceView | None:
        if found is None:
            return None
        like = [LikeView(family=one.face.family, words=one.words) for one in found.like]
        hidden = outside and found.own is not None
        return FaceView(
            wanted=found.wanted,
            shown=like[0].family if hidden else found.face,
            kind=found.kind,
            same=found.same and not hidden,
            why="the face itself is not given on" if hidden else found.why,
            like=like,
        )

    faces = kit.type
    return TypeView(
        headline=face(stand_in(faces.headline, faces.own)),
        text=face(stand_in(faces.text, faces.own)),
        own=[OwnView(**one.model_dump(exclude={"traits"})) for one in faces.own],
        pairs=[
            FacePairView(headline=one.headline, text=one.text, weight=one.weight, why=one.why)
            for one in face_pairs(faces)
        ],
    )
