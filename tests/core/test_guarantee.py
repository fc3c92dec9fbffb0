"""What the steps of a kit promise each other across its ramps: what is not listed holds."""

from __future__ import annotations

from hypothesis import given

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.ramp import PROMISES, STEPS
from pavese.core.kit.guarantee import shortfalls
from pavese.core.kit.kit import Kit
from tests.core.strategies import kits


@given(kits(smallest=2))
def test_every_pair_of_steps_keeps_its_promise_or_is_listed(kit: Kit) -> None:
    listed = shortfalls(kit)
    told = {
        (key, one.step, other, one.against, one.promised)
        for key, found in listed.items()
        for one in found
        for other in (*one.others, *([kit.color(key).name] if one.own else []))
    }
    for one in kit.colors:
        for other in kit.colors:
            for apart, promised in PROMISES:
                for at in range(len(STEPS) - apart):
                    ratio = contrast_ratio(one.ramp.colors[at], other.ramp.colors[at + apart])
                    step, against = STEPS[at], STEPS[at + apart]
                    named = (one.key, step, other.name, against, promised) in told or (
                        other.key,
                        against,
                        one.name,
                        step,
                        promised,
                    ) in told
                    assert (ratio < promised) <= named
    for found in listed.values():
        assert all(one.ratio < one.promised and (one.own or one.others) for one in found)
