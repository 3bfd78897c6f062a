"""Measures on paper, in the units that the reader chose: the one place of the service where numbers change unit."""

CM_PER_INCH, KG_PER_LB = 2.54, 0.45359237


def length(metres: float, units: str) -> str:
    """Return a length as it is measured on the bank: in one unit throughout, feet and inches for those who read them."""
    if units == "us":
        feet, inches = divmod(round(100.0 * metres / CM_PER_INCH), 12)
        return f"{feet} ft {inches} in" if feet else f"{inches} in"
    return f"{100.0 * metres:.0f} cm"


def load(kilograms: float, units: str) -> str:
    """Return the load at which a line breaks."""
    return f"{kilograms / KG_PER_LB:.1f} lb" if units == "us" else f"{kilograms:.1f} kg"
