"""What symbols and words mean, and in which unit: the page docs/glossary.md is made from this."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Term:
    """A symbol inside a formula, or a word of the trade, with its unit where it has one.

    ``forms``: how the word stands on screens, where it can be tapped; ``drawing``: which part of which picture it is, as
    "rig:point".
    """

    word: str
    meaning: str
    unit: str = ""
    forms: tuple[str, ...] = ()
    drawing: str = ""


SYMBOLS: tuple[Term, ...] = (
    Term("H", "depth of the water", "m"),
    Term("z", "height above the bed", "m"),
    Term("z0", "height at which the log law reaches nought: ks/30", "m"),
    Term("ks", "Nikuradse roughness of the bed, about 3.5 D84", "m"),
    Term("D84", "size that 84 % of the stones are smaller than: how far the larger ones stand up", "m"),
    Term("u, us", "current at a height, and at the surface", "m/s"),
    Term("v, V", "speed of the rig's top end", "m/s"),
    Term("q", "height of the lowest body; below nought the bed takes its weight, then line lies on it", "m"),
    Term("Re", "Reynolds number", "-"),
    Term("C_D", "drag coefficient", "-"),
    Term("τ, m", "scale and exponent of the sinking curve: depth = D·(1 − exp(−(t/τ)^m))", "s, -"),
    Term("Q", "flow of the river", "m³/s"),
    Term("f, m, b", "exponents of depth, speed and width over flow at a station", "-"),
    Term("k", "rate at which a flow recedes", "1/h"),
    Term("rho, mu", "density and viscosity of the water", "kg/m³, Pa·s"),
)

WORDS: tuple[Term, ...] = (
    Term("beat", "a stretch of river that is fished as one, with its rules", forms=("beat", "beats"), drawing="above:beat"),
    Term("lie", "a place where a fish holds; what is read and fished", forms=("lie", "lies"), drawing="above:lie"),
    Term(
        "stance", "where the angler stands to fish a lie; counted from the lowest",
        forms=("stance", "stances"), drawing="above:stance",
    ),
    Term(
        "lane", "a strip of current as wide as a fish moves for a fly; counted from the near one",
        forms=("lane", "lanes"), drawing="above:lane",
    ),
    Term("seam", "the edge between fast water and slow, where food runs beside rest", forms=("seam", "seams"),
         drawing="above:seam"),
    Term(
        "drop-off", "where the bed falls away: fish line its edge", forms=("drop-off", "drop-offs"), drawing="column:drop",
    ),
    Term("undertow", "water whose bottom runs faster than its top", forms=("undertow",), drawing="column:undertow"),
    Term(
        "drift", "one cast, from the flies landing until they are lifted", forms=("drift", "drifts"), drawing="above:drift",
    ),
    Term(
        "dead drift", "a drift in which the fly goes with the water about it", forms=("dead drift",), drawing="column:dead",
    ),
    Term("drag", "a fly or float pulled by its line, across or against the water", forms=("drag", "drags"),
         drawing="above:drag"),
    Term(
        "mend", "line laid over to the other side on the water, so that it does not drag the float",
        forms=("mend", "mends", "mended"), drawing="above:mend",
    ),
    Term("swing", "the end of a drift, where the flies rise and cross the current", forms=("swing",), drawing="above:swing"),
    Term(
        "lead", "the rod tip going a little ahead of the flies; and how far above a fish they have to land",
        forms=("lead", "led"), drawing="above:lead",
    ),
    Term("tuck", "a cast that drives the flies in first", forms=("tuck",), drawing="column:tuck"),
    Term("setting", "a rig as it is set: bead, depth and the rest", forms=("setting", "settings"), drawing="rig:length"),
    Term("depth_setting_m", "euro: tippet from sighter to point fly; the others: float to point fly", "m"),
    Term("point fly", "the fly at the end of the line", forms=("point fly", "point"), drawing="rig:point"),
    Term("dropper", "a fly above the point fly", forms=("dropper", "droppers"), drawing="rig:dropper"),
    Term("tag", "a short end of line that a dropper hangs from", forms=("tag", "tags"), drawing="rig:tag"),
    Term(
        "bead", "what weighs a fly; its diameter stands for its weight", "mm", forms=("bead", "beads"), drawing="rig:point",
    ),
    Term("tippet", "the thinnest line, down to the flies", forms=("tippet",), drawing="rig:tippet"),
    Term("X", "how thin a tippet is, in thousandths of an inch below eleven", "X"),
    Term("shot", "weight pinched on the line; tin", "g", forms=("shot",), drawing="rig:shot"),
    Term(
        "sighter", "coloured line above the tippet of a tight line, which is watched",
        forms=("sighter",), drawing="tight:sighter",
    ),
    Term("leader", "all the line from the fly line down", forms=("leader",), drawing="tight:leader"),
    Term("euro", "nymphs on a line held tight to the rod tip", forms=("euro", "tight line"), drawing="tight:all"),
    Term("indicator", "nymphs under a float; the float itself", forms=("indicator", "float"), drawing="rig:float"),
    Term(
        "dry-dropper", "a nymph under a dry fly that floats it", forms=("dry-dropper",), drawing="rig:float",
    ),
    Term("nymph", "a fly that is fished under water", forms=("nymph", "nymphs"), drawing="rig:point"),
    Term("dry", "a fly that floats", forms=("dry fly", "single dry"), drawing="rig:float"),
    Term(
        "strike zone", "the slice of the column where fish feed now", "m above the bed",
        forms=("strike zone", "in the zone", "zone"), drawing="column:zone",
    ),
    Term("zone share", "share of the fishable drift that the best-placed fly is in the zone", "-"),
    Term("pace", "float or sighter against the bubbles", "-", forms=("pace",), drawing="above:pace"),
    Term("lead_m", "how far upstream of the fish the flies must land", "m"),
    Term("tick", "a touch of the bed that passes", forms=("tick", "ticks"), drawing="column:tick"),
    Term("hang-up", "a touch of the bed that stops the drift", forms=("hung up", "hang-up", "hang-ups"), drawing="column:hung"),
    Term(
        "strike", "lifting the rod at whatever the float does that the bubbles do not; it is free",
        forms=("strike", "strikes"), drawing="rig:float",
    ),
    Term("take", "a fish that has the fly in its mouth, hooked or not", forms=("take", "takes"), drawing="column:take"),
    Term("reading", "what was seen of a lie: depth, speed and conditions, with how it was taken",
         forms=("reading", "readings"), drawing="column:depth"),
    Term("sounding", "measuring a depth", forms=("sounding", "soundings", "sounded"), drawing="column:depth"),
    Term("carried", "of a lie: taken along its rating to today's flow", forms=("carried",), drawing="column:depth"),
    Term("rating", "how a lie's depth and speed go with the flow", forms=("rating",), drawing="column:depth"),
    Term(
        "belief", "the depths and speeds that a lie may have, each with its weight, after the drifts so far"
    ),
    Term("runs off", "by what share a fly runs deeper than reckoned, all through a stop", "-"),
    Term("taking fish", "the chance that a fish which would take is at the lie", "-"),
    Term("tone, mark", "how bright a fly is in all, and the collar or tag on it that is brighter"),
    Term("school", "which side an angler takes where practitioners disagree", forms=("school", "schools")),
    Term("blank", "an outing without a fish", forms=("blank",)),
    Term("redd", "gravel that a fish has spawned in: never to be stepped on", forms=("redd", "redds")),
    Term("stop, caution, note", "how grave a caution is: do not; mind it; always true"),
)  # fmt: skip


def page() -> str:
    """Return the glossary as Markdown."""
    lines = ["# Glossary", "", "Made from `src/deriva/core/glossary.py` by `make docs`.", ""]
    for title, terms in (("Symbols", SYMBOLS), ("Words", WORDS)):
        lines += [f"## {title}", "", "| | meaning | unit |", "|---|---|---|"]
        lines += [f"| {one.word} | {one.meaning} | {one.unit} |" for one in terms]
        lines.append("")
    lines += [
        "A number that leaves the core has its unit in its name: `depth_m`, `surface_speed_m_s`, `temperature_c`, `shot_g`.",
        "",
    ]
    return "\n".join(lines)
