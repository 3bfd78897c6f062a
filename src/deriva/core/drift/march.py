"""The march of a drift through time: one compiled loop over steps, on plain arrays.

Lumped masses joined by inextensible segments that carry tension only. Drag is stiff against such small masses, so it
is taken implicitly: with A = M/Δt + K (mass with added mass, and linearised drag, each 2×2 per node),

    v = A⁻¹ (M v_old/Δt + K u + W + Σ tensions),

and the tensions are those that bring every segment to its length at the end of the step: one tridiagonal solve,
iterated on the directions at the end of the step, with slack segments released and bodies on the bed held.
"""

import numpy as np
from numpy.typing import NDArray

from deriva.core._jit import jit_fast
from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at, sphere_cd_at
from deriva.core.water.profile import speed_at
from deriva.core.water.properties import GRAVITY_M_S2

Array = NDArray[np.float64]
Nodes = NDArray[np.int64]

SWEEPS = 60
LENGTH_TOLERANCE = 2e-4
"""Most Newton sweeps on the lengths in a step, and the relative length error at which they stop. Two or three do as a
rule; a fly striking the bed slackens the line above it piece by piece, which takes up to fifty."""

WILD = 3.0
"""Relative stretch in a sweep at which it is given up."""


@jit_fast
def march(
    x: Array,
    z: Array,
    vx: Array,
    vz: Array,
    seg_len: Array,
    seg_dia: Array,
    seg_rho: Array,
    up: Nodes,
    body_node: Nodes,
    bodies: tuple[Array, Array, Array, Array, Array],
    top: tuple[int, float, float],
    phases: tuple[Array, Array, Array],
    water: tuple[float, float, int, float, float, float],
    dt: float,
    steps: int,
    every: int,
    out_x: Array,
    out_z: Array,
    out_pull: Array,
    touched: Array,
) -> float:
    """Advance ``steps`` steps, recording every ``every``-th; return the largest relative stretch seen.

    Segment ``j`` runs from node ``up[j]`` down to node ``j + 1``: the line's own first, each from the node before, then
    the tags, each from where it is tied in. ``out_pull`` (frames, 2) takes the line's pull on the top end, N: downstream
    and down.
    """
    n = len(seg_len)
    chain = n
    while up[chain - 1] != chain - 1:
        chain -= 1
    kind, top_mass, top_area = top
    phase_ends, phase_speed, phase_lift = phases
    depth, us, profile, z0, rho, mu = water
    b_mass, b_volume, b_dia, b_dress, b_dress_dia = bodies
    g = GRAVITY_M_S2
    cxx, cxz, czz, bx, bz = (
        np.empty(n + 1),
        np.empty(n + 1),
        np.empty(n + 1),
        np.empty(n + 1),
        np.empty(n + 1),
    )
    mxx, mxz, mzz = np.empty(n + 1), np.empty(n + 1), np.empty(n + 1)
    weight, current = np.empty(n + 1), np.empty(n + 1)
    axx, axz, azz = np.zeros(n + 1), np.zeros(n + 1), np.zeros(n + 1)
    sx, sz = np.empty(n + 1), np.empty(n + 1)  # velocities without tension
    floor = np.zeros(n + 1)
    ex, ez, size = np.empty(n), np.empty(n), np.empty(n)
    gxx, gxz, gzz = np.empty(n + 1), np.empty(n + 1), np.empty(n + 1)
    lower, diag, upper, rhs, tension = np.empty(n), np.empty(n), np.empty(n), np.empty(n), np.zeros(n)
    taut = np.ones(n, dtype=np.bool_)
    held = np.zeros(n + 1, dtype=np.bool_)
    for b in range(len(body_node)):
        floor[body_node[b]] = 0.5 * b_dia[b]
    worst = 0.0
    frame = phase = since = 0
    pulled_x = pulled_z = 0.0
    for step in range(steps + 1):
        if step % every == 0:
            for i in range(n + 1):
                out_x[frame, i] = x[i]
                out_z[frame, i] = z[i]
            out_pull[frame, 0] = pulled_x / max(1, since)
            out_pull[frame, 1] = pulled_z / max(1, since)
            pulled_x = pulled_z = 0.0
            since = 0
            frame += 1
        while phase < len(phase_ends) - 1 and step * dt >= phase_ends[phase]:
            phase += 1
        tip_vx, tip_vz = phase_speed[phase], phase_lift[phase]
        # Mass, drag and weight of every node: halves of its segments, then its bodies.
        for i in range(n + 1):
            mxx[i] = mxz[i] = mzz[i] = cxx[i] = cxz[i] = czz[i] = weight[i] = 0.0
            current[i] = speed_at(z[i], depth, us, profile, z0)
            held[i] = False
        for j in range(n):
            p, q = up[j], j + 1
            dx, dz = x[q] - x[p], z[q] - z[p]
            size[j] = np.sqrt(dx * dx + dz * dz) + 1e-12
            tx, tz = dx / size[j], dz / size[j]
            ex[j], ez[j] = tx, tz
            worst = max(worst, size[j] / seg_len[j] - 1.0)
            half = 0.5 * seg_len[j]
            d = seg_dia[j]
            area = np.pi * d * d / 4.0
            m = seg_rho[j] * area * half
            # the coefficients are those of the segment's middle, the motion that of each end
            wx = 0.5 * (current[p] - vx[p] + current[q] - vx[q])
            wz = -0.5 * (vz[p] + vz[q])
            along = wx * tx + wz * tz
            nx, nz = wx - along * tx, wz - along * tz
            across = np.sqrt(nx * nx + nz * nz)
            kn = 0.5 * rho * d * cylinder_cd_at(rho * across * d / mu) * across * half
            kt = 0.5 * rho * np.pi * d * TANGENTIAL_COEFFICIENT * abs(along) * half
            added = rho * area * half
            pxx, pxz, pzz = 1.0 - tx * tx, -tx * tz, 1.0 - tz * tz
            for i in (p, q):
                mxx[i] += m
                mzz[i] += m
                weight[i] -= m * g
                if z[i] > depth and kind != 0:
                    continue
                weight[i] += added * g
                mxx[i] += added * pxx
                mxz[i] += added * pxz
                mzz[i] += added * pzz
                cxx[i] += kn * pxx + kt * tx * tx
                cxz[i] += kn * pxz + kt * tx * tz
                czz[i] += kn * pzz + kt * tz * tz
        for b in range(len(body_node)):
            i = body_node[b]
            m = b_mass[b]
            weight[i] -= m * g
            if z[i] <= depth or kind == 0:
                m += 0.5 * rho * b_volume[b]
                weight[i] += rho * b_volume[b] * g
                wx, wz = current[i] - vx[i], -vz[i]
                w = np.sqrt(wx * wx + wz * wz)
                k = sphere_cd_at(rho * w * b_dia[b] / mu) * np.pi * b_dia[b] ** 2 / 4.0
                if b_dress[b] > 0.0:
                    k += cylinder_cd_at(rho * w * b_dress_dia[b] / mu) * b_dress[b]
                k *= 0.5 * rho * w
                cxx[i] += k
                czz[i] += k
            mxx[i] += m
            mzz[i] += m
        if kind == 0:
            mxx[0] += top_mass
            cxx[0] += 0.5 * rho * top_area * abs(us - vx[0])
        for i in range(n + 1):
            bx[i] = (mxx[i] * vx[i] + mxz[i] * vz[i]) / dt + cxx[i] * current[i]
            bz[i] = (mxz[i] * vx[i] + mzz[i] * vz[i]) / dt + cxz[i] * current[i] + weight[i]
            cxx[i] += mxx[i] / dt
            cxz[i] += mxz[i] / dt
            czz[i] += mzz[i] / dt
        # Tensions along the line as it will lie at the end of the step: Newton on the lengths, with segments
        # released where they would push and nodes held where they would enter the bed.
        for j in range(n):  # what lies slack stays so until the step would stretch it
            taut[j] = size[j] >= seg_len[j] * (1.0 - 5.0 * LENGTH_TOLERANCE)
        if kind == 1:  # a rod tip goes where the hand goes
            vx[0], vz[0] = tip_vx, tip_vz
        settled = found = False
        for sweep in range(SWEEPS + 1):
            wild = False
            for j in range(n):
                p, q = up[j], j + 1
                dx = x[q] - x[p] + dt * (vx[q] - vx[p])
                dz = z[q] - z[p] + dt * (vz[q] - vz[p])
                size[j] = np.sqrt(dx * dx + dz * dz) + 1e-12
                ex[j], ez[j] = dx / size[j], dz / size[j]
                off = size[j] / seg_len[j] - 1.0
                if not taut[j] and off > LENGTH_TOLERANCE:
                    taut[j] = True
                if not off <= LENGTH_TOLERANCE or (taut[j] and off < -LENGTH_TOLERANCE):
                    settled = False
                if not off <= WILD:
                    wild = True
            found = settled
            if settled or wild or sweep == SWEEPS:
                break
            settled = True
            # Nodes without tension, each held near its last guess by the stiffness that taut neighbours give a
            # line across itself: without it the sweeps overshoot where the tension is high for the mass.
            for i in range(n + 1):
                gxx[i] = gxz[i] = gzz[i] = 0.0
            for j in range(n):
                k = dt * tension[j] / seg_len[j]
                kxx, kxz, kzz = k * (1.0 - ex[j] * ex[j]), -k * ex[j] * ez[j], k * (1.0 - ez[j] * ez[j])
                for i in (up[j], j + 1):
                    gxx[i] += kxx
                    gxz[i] += kxz
                    gzz[i] += kzz
            for i in range(n + 1):
                if i == 0 and kind == 1:
                    sx[0], sz[0] = tip_vx, tip_vz
                    continue
                qxx, qxz, qzz = cxx[i] + gxx[i], cxz[i] + gxz[i], czz[i] + gzz[i]
                px = bx[i] + gxx[i] * vx[i] + gxz[i] * vz[i]
                pz = bz[i] + gxz[i] * vx[i] + gzz[i] * vz[i]
                if (i == 0 and kind == 0) or held[i]:  # a float rides on the surface, a body lies on the bed
                    rise = 0.0 if i == 0 and kind == 0 else (floor[i] - z[i]) / dt
                    axx[i], axz[i], azz[i] = 1.0 / qxx, 0.0, 0.0
                    sx[i], sz[i] = (px - qxz * rise) / qxx, rise
                else:
                    det = qxx * qzz - qxz * qxz
                    axx[i], axz[i], azz[i] = qzz / det, -qxz / det, qxx / det
                    sx[i] = axx[i] * px + axz[i] * pz
                    sz[i] = axz[i] * px + azz[i] * pz
            for j in range(n):
                if not taut[j]:
                    lower[j], diag[j], upper[j], rhs[j] = 0.0, 1.0, 0.0, 0.0
                    continue
                p, q = up[j], j + 1
                hx, hz = axx[p] * ex[j] + axz[p] * ez[j], axz[p] * ex[j] + azz[p] * ez[j]
                lx, lz = axx[q] * ex[j] + axz[q] * ez[j], axz[q] * ex[j] + azz[q] * ez[j]
                diag[j] = -(hx * ex[j] + hz * ez[j] + lx * ex[j] + lz * ez[j]) - 1e-12
                if j < chain:
                    upper[j] = lx * ex[j + 1] + lz * ez[j + 1] if j < chain - 1 else 0.0
                    lower[j] = hx * ex[j - 1] + hz * ez[j - 1] if j > 0 else 0.0
                else:  # a tag hangs between the pieces of line above and below its knot
                    lower[j] = hx * ex[p - 1] + hz * ez[p - 1] if taut[p - 1] else 0.0
                    upper[j] = -(hx * ex[p] + hz * ez[p]) if taut[p] else 0.0
                rhs[j] = (
                    (seg_len[j] - size[j]) / dt
                    + ex[j] * (vx[q] - vx[p] - sx[q] + sx[p])
                    + ez[j] * (vz[q] - vz[p] - sz[q] + sz[p])
                )
            # A tag's tension enters those of two neighbours only: taken out of both, the line's system stays
            # tridiagonal.
            for j in range(chain, n):
                p = up[j]
                into_upper, into_lower = lower[j] / diag[j], upper[j] / diag[j]
                if taut[p - 1]:
                    diag[p - 1] -= lower[j] * into_upper
                    upper[p - 1] -= lower[j] * into_lower
                    rhs[p - 1] -= rhs[j] * into_upper
                if taut[p]:
                    diag[p] -= upper[j] * into_lower
                    lower[p] -= upper[j] * into_upper
                    rhs[p] -= rhs[j] * into_lower
            for j in range(1, chain):
                f = lower[j] / diag[j - 1]
                diag[j] -= f * upper[j - 1]
                rhs[j] -= f * rhs[j - 1]
            tension[chain - 1] = rhs[chain - 1] / diag[chain - 1]
            for j in range(chain - 2, -1, -1):
                tension[j] = (rhs[j] - upper[j] * tension[j + 1]) / diag[j]
            for j in range(chain, n):
                p = up[j]
                tension[j] = (rhs[j] - lower[j] * tension[p - 1] - upper[j] * tension[p]) / diag[j]
            for j in range(n):
                if tension[j] < 0.0:
                    taut[j] = False
                    tension[j] = 0.0
            for i in range(n + 1):
                gxx[i] = gzz[i] = 0.0
            for j in range(n):
                px, pz = tension[j] * ex[j], tension[j] * ez[j]
                gxx[up[j]] += px
                gzz[up[j]] += pz
                gxx[j + 1] -= px
                gzz[j + 1] -= pz
            for i in range(n + 1):
                vx[i] = sx[i] + axx[i] * gxx[i] + axz[i] * gzz[i]
                vz[i] = sz[i] + axz[i] * gxx[i] + azz[i] * gzz[i]
                if (i > 0 or kind == 2) and not held[i] and z[i] + dt * vz[i] < floor[i] - 1e-9:
                    held[i] = True
                    settled = False
        if not found:
            # No set of tensions was found: every node goes as it would without, and is then drawn in, from the top
            # down, to where its line still reaches. It costs the motion of one step, and no line.
            for i in range(n + 1):
                if i == 0 and kind == 1:
                    continue
                det = cxx[i] * czz[i] - cxz[i] * cxz[i]
                vx[i] = (czz[i] * bx[i] - cxz[i] * bz[i]) / det
                vz[i] = (cxx[i] * bz[i] - cxz[i] * bx[i]) / det
                if i == 0 and kind == 0:
                    vx[0], vz[0] = bx[0] / cxx[0], 0.0
                vz[i] = max(vz[i], (floor[i] - z[i]) / dt)
            for j in range(n):
                p, q = up[j], j + 1
                dx = x[q] - x[p] + dt * (vx[q] - vx[p])
                dz = z[q] - z[p] + dt * (vz[q] - vz[p])
                reach = seg_len[j] / (np.sqrt(dx * dx + dz * dz) + 1e-12)
                if reach < 1.0:
                    vx[q] = vx[p] + (x[p] - x[q] + reach * dx) / dt
                    vz[q] = vz[p] + (z[p] - z[q] + reach * dz) / dt
                tension[j] = 0.0
        pulled_x += tension[0] * ex[0]
        pulled_z -= tension[0] * ez[0]
        since += 1
        for i in range(n + 1):
            x[i] += dt * vx[i]
            z[i] += dt * vz[i]
        for b in range(len(body_node)):
            if held[body_node[b]] and touched[b] < 0.0:
                touched[b] = (step + 1) * dt
    return worst
