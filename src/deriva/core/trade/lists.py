"""Lists to go through, short, for paper too; local rules come before them. Common practice, no source."""

from dataclasses import dataclass

FIRST_WORD = "Local rules and the fishery's own word come first."


@dataclass(frozen=True, slots=True)
class Checklist:
    """Things to do, in order; ``grave``: somebody, or the fish, may be hurt."""

    name: str
    title: str
    points: tuple[str, ...]
    grave: bool = False


LISTS: tuple[Checklist, ...] = (
    Checklist(
        "leaving", "Before you leave",
        (
            "Somebody knows where you are, and when you are back.",
            "Flow, its trend, storms; the rules of the beat: flies, barbs, weight, wading, season.",
            "Nets, boots and waders clean and dry since the last river.",
            "The beat taken along on this device, for where there is no signal.",
            "Glasses, belt, staff, dry clothes, something warm.",
        ),
    ),
    Checklist(
        "stepping_in", "Before you step in",
        (
            "Fish first where you would stand: there may be one at your feet.",
            "Look for redds, clean pale gravel in the cold months: go round them.",
            "Belt closed, staff in hand, a way out below you.",
            "Depth times speed as the caution has it; never alone in high water.",
            "No power line over the cast. Thunder: rod down, away from the water.",
        ),
        True,
    ),
    Checklist(
        "fish_on", "A fish is on",
        (
            "Side pressure, low; let it run against the reel.",
            "Stay below it; follow a big one rather than drag it up heavy water.",
            "Net in the water, the fish over it head first.",
        ),
    ),
    Checklist(
        "releasing", "Before you let it go",
        (
            "Wet hands, always in the water or the net.",
            "A small one: some unhook it by hand in the water, others always net it.",
            "The hook out by its bend; cut the line where it is deep.",
            "No measuring of a tired fish: a length by eye will do.",
            "Head upstream, held until it goes by itself. Warm water, from ⟦19 °C⟧: do not fish for them at all.",
        ),
        True,
    ),
    Checklist(
        "hook_in_skin", "A hook in the skin",
        (
            "Near an eye, deep, or in a joint: leave it, cover it, to a doctor.",
            "Barbless: press the eye of the hook down and draw it back the way that it came.",
            "Barbed: loop of strong line about the bend, press the eye down, one quick pull along the skin.",
            "Wash it, cover it; ask when your last tetanus was.",
        ),
        True,
    ),
    Checklist(
        "fallen_in", "If you fall in",
        (
            "On your back, feet first and up, downstream.",
            "Let the rod go. Never stand up in fast water: a foot between stones holds you under.",
            "Across the current with your arms, to the slack side.",
            "Out, dry, warm: cold goes on after you are out.",
        ),
        True,
    ),
    Checklist(
        "after", "Between two rivers",
        (
            "Check: boots, felt, net, waders, for weed, mud, snails.",
            "Clean: hot water where there is some, everything that was wet.",
            "Dry: two days at the least, or another set.",
        ),
    ),
)  # fmt: skip
