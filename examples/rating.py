"""A lie seen at three flows: its depth at others, and how sure that is."""

from deriva.core.water.geometry import DEPTH_EXPONENT, Observed, carry, fit_rating

seen = [Observed(4.0, 0.80, 0.05), Observed(9.0, 1.10, 0.05), Observed(15.0, 1.38, 0.10)]
rating = fit_rating(seen, exponent=DEPTH_EXPONENT)
print(f"depth goes with flow to the power {rating.exponent:.2f} ± {rating.exponent_sd:.2f}")
for flow in (2.0, 5.0, 10.0, 20.0, 40.0):
    there = carry(rating, flow_m3_s=flow)
    print(f"{flow:5.1f} m³/s: {there.value:.2f} ± {there.sd:.2f} m")
