"""Documents as they come from the world: good ones, cut, doubled, shuffled, or with pieces of them made into something else."""

from hypothesis import strategies as st

GRAFTS = (
    b"", b"\0", b"\xff\xfe", b"nan", b"inf", b"-1", b"1e308", b"9" * 40, b"0001-01-01T00:00:00+14:00", b"9999-12-31",
    b"2026-02-30", b"]]>", b"<a>", b"</wml2:value>", b"&lol;", b"\t", b",", b"\r", b'"', b"{", b"[[[", b"\xe2\x80\xa8",
)  # fmt: skip

HEAD = 3
"""So many lines stay at the top: without them nothing else is read."""


@st.composite
def mauled(draw: st.DrawFn, good: bytes) -> bytes:
    """Draw a document made of a good one's lines and a few grafts."""
    lines = good.split(b"\n")
    head, rest = lines[:HEAD], lines[HEAD:]
    text = b"\n".join(head + (draw(st.permutations(rest)) if draw(st.booleans()) else rest))
    for _ in range(draw(st.integers(0, 2))):
        start = draw(st.integers(0, len(text)))
        end = draw(st.integers(start, min(len(text), start + 20)))
        graft = draw(st.sampled_from(GRAFTS) | st.binary(max_size=6))
        text = text[:start] + graft + text[end:]
    if draw(st.integers(0, 7)) == 0:
        text = text[: draw(st.integers(0, len(text)))]
    return text * 2 if draw(st.integers(0, 5)) == 0 else text
