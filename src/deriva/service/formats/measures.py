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


def depth(metres: float, units: str) -> str:
    """Return a depth of water."""
    return f"{100.0 * metres / CM_PER_INCH / 12.0:.1f} ft" if units == "us" else f"{metres:.2f} m"


def speed(metres_a_second: float, units: str) -> str:
    """Return how fast water runs."""
    feet = 100.0 * metres_a_second / CM_PER_INCH / 12.0
    return f"{feet:.1f} ft/s" if units == "us" else f"{metres_a_second:.2f} m/s"


def warmth(celsius: float, units: str) -> str:
    """Return a temperature."""
    return f"{celsius * 9.0 / 5.0 + 32.0:.0f} °F" if units == "us" else f"{celsius:.1f} °C"


def weight(grams: float, units: str) -> str:
    """Return what a fish weighs."""
    return f"{grams / 1000.0 / KG_PER_LB:.1f} lb" if units == "us" else f"{grams:.0f} g"
