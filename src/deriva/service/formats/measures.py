"""Measures on paper, in the units that the reader chose: the one place of the service where numbers change unit."""

CM_PER_INCH, KG_PER_LB = 2.54, 0.45359237
IN_CM_UNDER_M = 1.5


def length(metres: float, units: str) -> str:
    """Return a length as it is measured on the bank: centimetres while it is short, feet and inches for those who read them."""
    if units == "us":
        feet, inches = divmod(round(100.0 * metres / CM_PER_INCH), 12)
        return f"{feet} ft {inches} in" if feet else f"{inches} in"
    return f"{100.0 * metres:.0f} cm" if metres < IN_CM_UNDER_M else f"{metres:.2f} m"


def load(kilograms: float, units: str) -> str:
    """Return the load at which a line breaks."""
    return f"{kilograms / KG_PER_LB:.1f} lb" if units == "us" else f"{kilograms:.1f} kg"
