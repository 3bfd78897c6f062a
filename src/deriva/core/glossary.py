"""What symbols and words mean, and in which unit: the page docs/glossary.md is made from this."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Term:
    """A symbol inside a formula, or a word of the trade, with its unit where it has one."""

    word: str
    meaning: str
    unit: str = ""


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
    Term("beat", "a stretch of river that is fished as one, with its rules"),
    Term("lie", "a place where a fish holds; what is read and fished"),
    Term("stance", "where the angler stands to fish a lie; counted from the lowest"),
    Term("lane", "a strip of current as wide as a fish moves for a fly; counted from the near one"),
    Term("drift", "one cast, from the flies landing until they are lifted"),
    Term("setting", "a rig as it is set: bead, depth and the rest"),
    Term("depth_setting_m", "euro: tippet from sighter to point fly; the others: float to point fly", "m"),
    Term("point, dropper", "the fly at the end of the line, and one above it"),
    Term("tag", "a short end of line that a dropper hangs from"),
    Term("bead", "what weighs a fly; its diameter stands for its weight", "mm"),
    Term("tippet, X", "the thinnest line, in thousandths of an inch below eleven", "X"),
    Term("shot", "weight pinched on the line; tin", "g"),
    Term("sighter", "coloured line above the tippet of a tight line, which is watched"),
    Term("euro", "nymphs on a line held tight to the rod tip"),
    Term("indicator", "nymphs under a float"),
    Term("dry-dropper", "a nymph under a dry fly that floats it"),
    Term("strike zone", "the slice of the column where fish feed now", "m above the bed"),
    Term("zone share", "share of the fishable drift that the best-placed fly is in the zone", "-"),
    Term("pace", "float or sighter against the bubbles", "-"),
    Term("lead_m", "how far upstream of the fish the flies must land", "m"),
    Term("tick, hung", "a touch of the bed that passes, and one that stops the drift"),
    Term("reading", "what was seen of a lie: depth, speed and conditions, with how it was taken"),
    Term("carried", "of a lie: taken along its rating to today's flow"),
    Term("rating", "how a lie's depth and speed go with the flow"),
    Term(
        "belief", "the depths and speeds that a lie may have, each with its weight, after the drifts so far"
    ),
    Term("runs off", "by what share a fly runs deeper than reckoned, all through a stop", "-"),
    Term("taking fish", "the chance that a fish which would take is at the lie", "-"),
    Term("tone, mark", "how bright a fly is in all, and the collar or tag on it that is brighter"),
    Term("school", "which side an angler takes where practitioners disagree"),
    Term("stop, caution, note", "how grave a caution is: do not; mind it; always true"),
)


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
