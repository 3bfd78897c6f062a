"""Densities of what tackle is made of, kg/m³ (handbooks of materials; bead alloys vary by maker)."""

TUNGSTEN_BEAD = 17_500.0
"""Tungsten bead alloy: 17 000-18 500, against 19 250 for the pure metal."""

BRASS_BEAD = 8_500.0
TIN = 7_310.0
"""What shot is made of: lead is banned in many places."""

STEEL = 7_850.0
FLUOROCARBON = 1_780.0
NYLON = 1_140.0
DRESSING = 1_250.0
"""Thread, fur and feather without their air: cellulose and keratin are 1 200-1 500."""
