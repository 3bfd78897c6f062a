"""The same rig in the general-purpose line-dynamics library `moordyn`, where it is installed: to check and to race.

The frame moves with the top end at a given speed, so that the current at each node is the river's less that; one line type
a segment carries the cylinder's drag coefficient at its own Reynolds number, found by running again. The line is an elastic
one there (see ``STIFFNESS_N``): as stiff as its explicit steps allow.
"""

import math
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from time import perf_counter
from typing import Any

import numpy as np
from numpy.typing import NDArray

from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd, sphere_cd
from deriva.core.drift.scenario import Scenario
from deriva.core.water.profile import current_speed
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

Array = NDArray[np.float64]

STIFFNESS_N = 2.0
"""EA: a pull of 3 mN stretches the line by 0.15 %."""

INNER_STEP_S = 1e-4
OUTER_STEP_S = 0.02
FIRST_CD = 3.0

HEAD = """--- rig
---- LINE TYPES
Name Diam Mass EA BA EI Cd Ca CdAx CaAx
(-) (m) (kg/m) (N) (-) (-) (-) (-) (-) (-)
{types}
---- POINTS
ID Attachment X Y Z M V CdA Ca
(#) (-) (m) (m) (m) (kg) (m3) (m2) (-)
{points}
---- LINES
ID LineType AttachA AttachB UnstrLen NumSegs Outputs
(#) (name) (#) (#) (m) (-) (-)
{lines}
---- OPTIONS
0 writeLog
{inner} dtM
RK4 tScheme
1 WaveKin
{depth} WtrDpth
{density} WtrDnsty
{gravity} g
1e3 kBot
10 cBot
0 TmaxIC
---- END
"""


@dataclass(frozen=True)
class Settled:
    """Where the rig ends: the nodes from the top end down, x downstream and height over the surface."""

    nodes: Array

    @property
    def depth_m(self) -> float:
        """Depth of the lowest body."""
        return -float(self.nodes[-1, 2])

    @property
    def offset_m(self) -> float:
        """How far upstream of the top end it hangs."""
        return -float(self.nodes[-1, 0])


@contextmanager
def _silent() -> Iterator[None]:
    """Keep a library that writes to the terminal from doing so."""
    kept = [os.dup(fd) for fd in (1, 2)]
    with Path(os.devnull).open("w") as nowhere:
        for fd in (1, 2):
            os.dup2(nowhere.fileno(), fd)
        try:
            yield
        finally:
            for fd, old in zip((1, 2), kept, strict=True):
                os.dup2(old, fd)
                os.close(old)


class MooredRig:
    """A rig of one level line and one body, in a frame that moves at ``speed_m_s``."""

    def __init__(self, scenario: Scenario, *, speed_m_s: float, segments: int) -> None:
        self.scenario, self.speed, self.segments = scenario, speed_m_s, segments
        water, line, body = scenario.water, scenario.line[0], scenario.bodies[0]
        self.rho = density(temperature_c=water.temperature_c)
        self.mu = dynamic_viscosity(temperature_c=water.temperature_c)
        length = min(line.length_m, water.depth_m - 2.0 * body.diameter_m)
        self.nodes: Array = np.zeros((segments + 1, 3))
        self.nodes[:, 2] = -np.linspace(0.0, length, segments + 1)
        self.cds = np.full(segments, FIRST_CD)
        self.body_area = 0.44 * math.pi * body.diameter_m**2 / 4.0

    def _flow(self, z: float) -> float:
        water = self.scenario.water
        return (
            current_speed(
                height_m=min(max(water.depth_m + z, 0.0), water.depth_m),
                depth_m=water.depth_m,
                surface_speed_m_s=water.surface_speed_m_s,
                bed_ks_m=water.bed_ks_m,
                profile=water.profile,
            )
            - self.speed
        )

    def _written(self) -> str:
        line, body, n = self.scenario.line[0], self.scenario.bodies[0], self.segments
        d, area = line.diameter_m, math.pi * line.diameter_m**2 / 4.0
        return HEAD.format(
            types="\n".join(
                f"t{k} {d:.9g} {line.density_kg_m3 * area:.9g} {STIFFNESS_N} -0.2 0 {cd:.6g} 1 {TANGENTIAL_COEFFICIENT} 0"
                for k, cd in enumerate(self.cds)
            ),
            points="\n".join(
                f"{k + 1} {'Free' if k else 'Fixed'} {x:.9g} {y:.9g} {z:.9g} "
                + (
                    f"{body.mass_kg:.9g} {body.displaced_m3:.9g} {self.body_area:.9g} 0.5"
                    if k == n
                    else "0 0 0 0"
                )
                for k, (x, y, z) in enumerate(self.nodes)
            ),
            lines="\n".join(f"{k + 1} t{k} {k + 1} {k + 2} {line.length_m / n:.9g} 1 -" for k in range(n)),
            inner=INNER_STEP_S,
            depth=self.scenario.water.depth_m,
            density=self.rho,
            gravity=GRAVITY_M_S2,
        )

    def run(self, seconds: float) -> Settled:
        """Run on from where the nodes are, and take the drag coefficients of where they end."""
        import moordyn  # noqa: PLC0415 - a library of the tests and the bench

        with tempfile.TemporaryDirectory() as folder, _silent():
            file = Path(folder) / "rig.txt"
            file.write_text(self._written())
            system = moordyn.Create(str(file))
            moordyn.Init(system, [], [])
            moordyn.ExternalWaveKinInit(system)
            points = [moordyn.GetPoint(system, k + 1) for k in range(self.segments + 1)]
            for step in range(round(seconds / OUTER_STEP_S)):
                places = moordyn.ExternalWaveKinGetCoordinates(system)
                flows = [[self._flow(place[2]), 0.0, 0.0] for place in places]
                moordyn.ExternalWaveKinSet(system, flows, [[0.0] * 3] * len(flows), step * OUTER_STEP_S)
                moordyn.Step(system, [], [], step * OUTER_STEP_S, OUTER_STEP_S)
            self.nodes = np.array([moordyn.GetPointPos(point) for point in points])
            moordyn.Close(system)
        self._take_coefficients()
        return Settled(self.nodes)

    def _take_coefficients(self) -> None:
        pieces = np.diff(self.nodes, axis=0)
        pieces /= np.linalg.norm(pieces, axis=1)[:, None]
        middles = 0.5 * (self.nodes[1:, 2] + self.nodes[:-1, 2])
        d, body = self.scenario.line[0].diameter_m, self.scenario.bodies[0]
        for k, (t, z) in enumerate(zip(pieces, middles, strict=True)):
            across = abs(self._flow(float(z))) * math.hypot(float(t[1]), float(t[2]))
            self.cds[k] = cylinder_cd(Re=self.rho * across * d / self.mu)
        past = abs(self._flow(float(self.nodes[-1, 2])))
        cd = sphere_cd(Re=max(1e-6, self.rho * past * body.diameter_m / self.mu))
        self.body_area = cd * math.pi * body.diameter_m**2 / 4.0


def stiff_drift(scenario: Scenario, *, seconds: float, segments: int) -> tuple[Array, Array]:
    """Integrate the lumped masses of a rig under a float with `scipy`'s stiff BDF, on elastic segments; return times and
    the depth of the body. Start as the engine does: straight along the surface upstream of the float.
    """
    from scipy.integrate import solve_ivp  # noqa: PLC0415 - slow to import

    water, line, body, top = scenario.water, scenario.line[0], scenario.bodies[0], scenario.top
    rho, mu = density(temperature_c=water.temperature_c), dynamic_viscosity(temperature_c=water.temperature_c)
    n, us, depth, z0 = segments, water.surface_speed_m_s, water.depth_m, water.bed_ks_m / 30.0
    length, d = line.length_m / n, line.diameter_m
    area = math.pi * d * d / 4.0
    diameter = math.sqrt(8.0 * top.drag_area_m2 / math.pi)
    share = np.full(n + 1, 1.0)
    share[[0, -1]] = 0.5
    mass = share * length * area * (line.density_kg_m3 + rho)
    mass[-1] += body.mass_kg + 0.5 * rho * body.displaced_m3
    mass[0] += top.mass_kg + 0.5 * rho * math.pi * diameter**3 / 12.0
    weight = -share * length * area * (line.density_kg_m3 - rho) * GRAVITY_M_S2
    weight[-1] -= (body.mass_kg - rho * body.displaced_m3) * GRAVITY_M_S2

    damping = 2.0 * math.sqrt(STIFFNESS_N / length * length * area * (line.density_kg_m3 + rho))

    def cylinder(re: Array) -> Array:
        re = np.maximum(re, 1e-9)
        return np.asarray(
            1.18 + 6.8 / re**0.89 + 1.96 / np.sqrt(re) - 0.0004 * re / (1.0 + 3.64e-7 * re * re)
        )

    def slope(_: float, y: Array) -> Array:
        x, z, vx, vz = y.reshape(4, n + 1)
        u = us * np.log(np.clip(z, 1.0001 * z0, depth) / z0) / math.log(depth / z0)
        dx, dz = np.diff(x), np.diff(z)
        size = np.hypot(dx, dz)
        tx, tz = dx / size, dz / size
        rate = (np.diff(vx) * tx + np.diff(vz) * tz) * (size > length)
        pull = np.maximum(0.0, STIFFNESS_N * (size / length - 1.0) + damping * rate)
        wx = 0.5 * (u[1:] - vx[1:] + u[:-1] - vx[:-1])
        wz = -0.5 * (vz[1:] + vz[:-1])
        along = wx * tx + wz * tz
        nx, nz = wx - along * tx, wz - along * tz
        across = np.hypot(nx, nz)
        normal = 0.5 * rho * d * cylinder(rho * across * d / mu) * across * length
        skin = 0.5 * rho * math.pi * d * TANGENTIAL_COEFFICIENT * np.abs(along) * length
        fx, fz = np.zeros(n + 1), weight.copy()
        for force, out, t in (
            (normal * nx + skin * along * tx, fx, tx),
            (normal * nz + skin * along * tz, fz, tz),
        ):
            out[:-1] += 0.5 * force + pull * t
            out[1:] += 0.5 * force - pull * t
        w = math.hypot(u[-1] - vx[-1], vz[-1])
        k = 0.5 * rho * w * sphere_cd(Re=rho * w * body.diameter_m / mu) * math.pi * body.diameter_m**2 / 4.0
        fx[-1] += k * (u[-1] - vx[-1])
        fz[-1] -= k * vz[-1]
        fx[0] += 0.5 * rho * top.drag_area_m2 * abs(us - vx[0]) * (us - vx[0])
        ax, az = fx / mass, fz / mass
        az[0] = 0.0  # a float rides on the surface
        return np.concatenate([vx, vz, ax, az])

    start = np.concatenate(
        [-np.linspace(0.0, line.length_m, n + 1), np.full(n + 1, depth), np.full(n + 1, us), np.zeros(n + 1)]
    )
    # Where a guess of the stiff solver's goes wild it overflows, is rejected, and a shorter step is tried.
    with np.errstate(all="ignore"):
        run = solve_ivp(slope, (0.0, seconds), start, method="BDF", rtol=1e-3, atol=1e-5)
    if not run.success or not np.isfinite(run.y).all():
        raise ArithmeticError(f"the stiff integration failed: {run.message}")
    return run.t, depth - run.y.reshape(4, n + 1, -1)[1, -1]


def other_engines(scenario: Scenario, seconds: float, ours_s: float) -> list[dict[str, Any]]:
    """Time the same drift in `moordyn` and by `scipy`'s stiff integrator, where they are installed."""
    segments = 20
    rows: list[dict[str, Any]] = []
    try:
        rig = MooredRig(scenario, speed_m_s=0.61, segments=segments)
        began = perf_counter()
        rig.run(seconds)
        theirs = perf_counter() - began
        said = f"{theirs:.2f} s against {1e3 * ours_s:.1f} ms; steps of {1e3 * INNER_STEP_S:g} ms, {segments} segments"
        rows.append({"what": "transient drift against moordyn", "ratio": theirs / ours_s, "raw": said})
    except ImportError:
        rows.append({"what": "transient drift against moordyn", "ratio": None, "raw": "moordyn is not here"})
    began = perf_counter()
    stiff_drift(scenario, seconds=seconds, segments=segments)
    theirs = perf_counter() - began
    said = f"{theirs:.2f} s against {1e3 * ours_s:.1f} ms; BDF, {segments} segments"
    return [
        *rows,
        {"what": "transient drift against scipy's stiff BDF", "ratio": theirs / ours_s, "raw": said},
    ]
