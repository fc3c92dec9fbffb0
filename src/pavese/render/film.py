"""Animations as films and moving pictures. Runs in a child process only, as `draw` does.

Films are tagged as ITU-R BT.709 with limited range, and converted with its matrix: untagged, players guess, and the
brand's green comes back another one.
"""

from __future__ import annotations

from fractions import Fraction
from io import BytesIO
from typing import TYPE_CHECKING

import numpy as np

from pavese.render.motion import frame_at, frame_on, frames, opened, size_within

if TYPE_CHECKING:
    from av.filter import Graph
    from rlottie_python.rlottie_wrapper import LottieAnimation

_BT709 = 1
_SLOWEST, _FASTEST = 10, 60
#: Container and codec of each kind, and the codec's settings.
_FILMS = {
    "mp4": ("libx264", {"crf": "14", "preset": "veryfast", "movflags": "+faststart"}),
    "webm": ("libvpx-vp9", {"crf": "18", "b": "0", "deadline": "realtime", "cpu-used": "6"}),
}


def film(data: bytes, kind: str, side: int, ground: tuple[int, int, int]) -> bytes:
    """An MP4 (H.264) or WebM (VP9) of an animation on an opaque ground; sides are even, as the codecs want it.

    Raises ValueError when it cannot be played.
    """
    import av
    from av.video.stream import VideoStream

    codec, options = _FILMS[kind]
    animation = opened(data)
    rate = _rate(animation)
    width, height = (max(length - length % 2, 2) for length in size_within(animation, side))
    target = BytesIO()
    with av.open(target, "w", format=kind) as container:
        stream = container.add_stream(codec, rate=rate, options=dict(options))
        assert isinstance(stream, VideoStream)
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        context = stream.codec_context
        context.colorspace = context.color_primaries = context.color_trc = _BT709
        context.color_range = 1
        converter = _to_bt709(width, height, rate)
        for number in range(frames(animation)):
            shown = frame_on(animation, number, (width, height), ground)
            converter.push(av.VideoFrame.from_ndarray(shown, "rgb24"))
            picture = converter.pull()
            assert isinstance(picture, av.VideoFrame)
            picture.pts, picture.time_base = number, 1 / rate
            container.mux(stream.encode(picture))
        container.mux(stream.encode())
    return target.getvalue()


def moving_picture(data: bytes, kind: str, side: int, ground: tuple[int, int, int] | None) -> bytes:
    """A GIF or animated WebP of an animation; without a ground, transparent (in a GIF, all or nothing)."""
    from PIL import Image

    animation = opened(data)
    size = size_within(animation, side)
    rate = _rate(animation)
    # GIF counts in hundredths of a second, and viewers slow down what is faster than 50 a second.
    step = max(round(float(rate) / 25), 1) if kind == "gif" else 1
    pictures = []
    for number in range(0, frames(animation), step):
        if ground is not None:
            pictures.append(Image.fromarray(frame_on(animation, number, size, ground), "RGB"))
            continue
        pixels = frame_at(animation, number, size)
        if kind == "gif":
            pixels = pixels.copy()
            pixels[..., 3] = np.where(pixels[..., 3] > 127, 255, 0)
        pictures.append(Image.fromarray(pixels, "RGBA"))
    duration = [
        round(1000 * (n + 1) * step / float(rate)) - round(1000 * n * step / float(rate)) for n in range(len(pictures))
    ]
    target = BytesIO()
    options = {"lossless": True, "method": 2} if kind == "webp" else {"disposal": 2, "optimize": False}
    pictures[0].save(target, kind, save_all=True, append_images=pictures[1:], duration=duration, loop=0, **options)
    return target.getvalue()


def _rate(animation: LottieAnimation) -> Fraction:
    rate = float(animation.lottie_animation_get_framerate())
    return Fraction(min(max(rate, _SLOWEST), _FASTEST)).limit_denominator(1001)


def _to_bt709(width: int, height: int, rate: Fraction) -> Graph:
    """Converts RGB to 4:2:0 by BT.709, rounded rather than cut off, which would darken every color a little."""
    from av import VideoFormat
    from av.filter import Graph

    graph = Graph()
    source = graph.add_buffer(width=width, height=height, format=VideoFormat("rgb24"), time_base=1 / rate)
    scale = graph.add("scale", "flags=accurate_rnd+full_chroma_int+full_chroma_inp:out_color_matrix=bt709:out_range=tv")
    form = graph.add("format", "yuv420p")
    sink = graph.add("buffersink")
    source.link_to(scale)
    scale.link_to(form)
    form.link_to(sink)
    graph.configure()
    return graph
