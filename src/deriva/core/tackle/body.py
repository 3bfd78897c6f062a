"""A fly or a shot as the water feels it: a sphere with a dressing, on the line or on a tag."""

from dataclasses import dataclass

from deriva.core.tackle.materials import FLUOROCARBON


@dataclass(frozen=True, slots=True)
class Body:
    """A fly or a shot, ``along_m`` from the top end: on the line, or on a tag of its own that is tied in there.

    A tag is ``tag_m`` long (0: none), of its own diameter and density; the lowest body sits on the end of the line.

    A sphere of ``diameter_m`` gives frontal drag and, unless ``volume_m3`` says otherwise, the displaced volume.
    A dressing adds the drag of a cylinder: ``dressing_area_m2`` (length × diameter × class factor) at the
    Reynolds number of ``dressing_diameter_m``.
    """

    along_m: float
    mass_kg: float
    diameter_m: float
    volume_m3: float | None = None
    dressing_area_m2: float = 0.0
    dressing_diameter_m: float = 0.001
    tag_m: float = 0.0
    tag_diameter_m: float = 0.00015
    tag_density_kg_m3: float = FLUOROCARBON

    @property
    def displaced_m3(self) -> float:
        """Volume of water displaced, m³."""
        return self.volume_m3 if self.volume_m3 is not None else 0.5235987755982988 * self.diameter_m**3
