"""What the water shows, how a lie is covered, and how a drift is fished with each rig, step by step. Common practice, no
source.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Steps:
    """What is looked at or done, in its order, and the fault that most make."""

    name: str
    title: str
    steps: tuple[str, ...]
    fault: str


AT_A_LIE: tuple[Steps, ...] = (
    Steps(
        "signs", "What the water shows",
        (
            "Bubbles and foam: the lanes, and how fast they run. Time one over a rod's length.",
            "Pale turning dark: the bed drops off, and fish line its edge.",
            "A seam, fast beside slow: food next to rest, and the first place for a drift.",
            "Boulder, log, roots, undercut: cover, with a cushion before it, beside it and behind it.",
            "A slow pocket in fast water: overlooked, and often the best spot of all.",
            "A flat glide at low water looks empty and is not: weed edges, faint channels. Note what low water shows: it "
            "holds fish when it is high.",
            "An eddy runs upstream: no tight line stays in it, a fly under a float or a dry does.",
            "A boil, a corner pool: the bottom may run faster than the top. Fish avoid it, or hold in mid-water.",
            "Rises that leave bubbles are at the surface, others just under it. Flies in the air prove nothing: they live for "
            "weeks.",
            "A fine net tells what they eat, and how large: held at the bed at first, in the top half-metre once they rise.",
        ),
        "Taking it for too shallow, above all where it is coloured: then the fly is never down. Sound it.",
    ),
    Steps(
        "cover", "Up to a lie",
        (
            "Come from below, and stay below the fish. Walking, pin the dropper to the rod: it cannot tangle so.",
            "The tail first, then upwards; near before far, shallow before deep. There may be a fish at your feet.",
            "Do not step into water that is not fished yet, and do not cast across it.",
            "On a bank you stand against the sky. Wading you are lower and learn the bed; a rock hides your ripples.",
            "Clear water: far off and low. Coloured: close, upright if you like, and in narrower lanes.",
            "Fan the lanes out from bank to bank; then two steps up, and not a longer cast.",
            "A few drifts a lane where it is ordinary, 20 to 30 from one stance where it is prime.",
            "With another rig some go through again, since it was refused and not empty; others never back up, and begin "
            "where it does better.",
        ),
        "Casting far, or wading, first: the near fish are gone before a fly has passed them.",
    ),
    Steps(
        "euro", "On a tight line",
        (
            "Cast up and across, a rod's length or two out; further up where it is deep or fast: that buys time to sink.",
            "Pause, then lift the tip until the sighter hangs under it, and the flies drop. In a riffle lift at once, and "
            "cast anew every few seconds.",
            "Keep the sighter off the water, its lower end some ⟦0.15 m⟧ up: in the water it drags the flies along.",
            "Lead at the pace of the bubbles or a touch slower, from half upstream of you to half downstream.",
            "Gather line with a twist of the hand: the sighter stays up, and a drift is as long as the cast, not as the rod.",
            "Strike at any stop or hesitation: fish or stone, it is free. Where the sighter shoots ahead, the flies are in "
            "faster water below, or not down.",
            "At the end hold still: they swing and rise. Lift off as if there were a fish.",
        ),
        "The tip far ahead of the flies: a flat line holds them up.",
    ),
    Steps(
        "indicator", "Under a float",
        (
            "Throw a wide, slow loop: two flies and a float tangle in a quick one.",
            "Mend as the flies land, high enough not to move the float: upstream where the line lies on faster water, down "
            "where on slower.",
            "Fishing up, strip as fast as the water comes; fishing down, feed as fast as it goes.",
            "A little slower than the bubbles is right; faster: the flies are not down. Across, or with a wake, is drag: mend.",
            "To see drag, put a second small float of another colour ⟦0.3 m⟧ from the first: it shows between them.",
            "Strike at whatever the float does that the bubbles do not. Lift off as if there were a fish.",
        ),
        "Judging the depth by a float that is fed downstream too slowly: its line holds it back.",
    ),
    Steps(
        "dry_dropper", "Under a dry",
        (
            "Land the nymph straight up- or downstream of the dry: beside it, it pulls across, and takes are missed.",
            "Watch the dry: it stops, shifts, or merely begins to sink: strike. On its own tag it cocks as the nymph tightens.",
            "With more than ⟦1.0 m⟧ under it takes come late, through slack: strike hard.",
            "In slow water lift the rod a few centimetres now and then: a dry on its own tag stays put, and the nymph dances.",
            "They rise, and nothing takes the nymph: cut it off. They bulge and refuse the dry: hang a pupa ⟦0.3 m⟧ to "
            "⟦0.45 m⟧ under it.",
            "Dry it before it drowns: every drift takes something from what it carries, and every fish more.",
        ),
        "A small soft dry in broken water, or over a heavy bead: it is under more than it is seen.",
    ),
)  # fmt: skip
