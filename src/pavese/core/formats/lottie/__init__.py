"""Lottie and dotLottie, read for recoloring: https://lottie.github.io/lottie-spec/"""

from pavese.core.formats.lottie.document import LottieDocument, read_lottie
from pavese.core.formats.lottie.package import DotLottieDocument, read_dotlottie

__all__ = ["DotLottieDocument", "LottieDocument", "read_dotlottie", "read_lottie"]
