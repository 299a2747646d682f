"""Reference values for core/src/net/net.test.ts: 200 random rows of equalisers, summed by SciPy. Cuts are SciPy's own Butterworth designs;
bells and shelves are written from the Audio EQ Cookbook (Bristow-Johnson, W3C note 2021) as analog prototypes and transformed by SciPy.
Run by hand: python3 scripts/reference/net_curve.py"""
import json
import numpy as np
import scipy
from scipy import signal

RATE = 48_000
HZ = [40, 63, 125, 250, 500, 1_000, 2_000, 4_000, 8_000, 12_000]
rng = np.random.default_rng(1_515)


def warped(b, a, hz):
    """An analog prototype with its corner at 1 rad/s as a digital filter with the corner at hz."""
    w = 2 * RATE * np.tan(np.pi * hz / RATE)
    return signal.bilinear(*signal.lp2lp(b, a, w), fs=RATE)


def bell(hz, db, q):
    g = 10 ** (db / 40)
    return warped([1, g / q, 1], [1, 1 / (g * q), 1], hz)


def shelf(hz, db, low):
    g = 10 ** (db / 40)
    k = np.sqrt(g) * np.sqrt(2)  # slope 1
    b, a = ([g, g * k, g * g], [g, k, 1]) if low else ([g * g, g * k, g], [1, k, g])
    return warped(b, a, hz)


def eq():
    p = {
        "lowSlope": str(rng.choice(["off", "6", "12", "24"])), "lowCut": float(np.round(rng.uniform(30, 400), 1)),
        "highSlope": str(rng.choice(["off", "6", "12", "24"])), "highCut": float(np.round(rng.uniform(2_000, 15_000), 0)),
        "lowShelf": float(np.round(rng.uniform(60, 500), 1)), "lowGain": float(np.round(rng.uniform(-12, 12), 1)),
        "highShelf": float(np.round(rng.uniform(1_500, 9_000), 0)), "highGain": float(np.round(rng.uniform(-12, 12), 1)),
    }
    for n, (low, high) in enumerate([(60, 1_500), (150, 6_000), (600, 12_000)], 1):
        p[f"bell{n}"] = float(np.round(rng.uniform(low, high), 1))
        p[f"gain{n}"] = float(np.round(rng.uniform(-15, 15), 1))
        p[f"q{n}"] = float(np.round(rng.uniform(0.3, 6), 2))
    return p


def response(p):
    filters = [bell(p[f"bell{n}"], p[f"gain{n}"], p[f"q{n}"]) for n in (1, 2, 3)]
    filters += [shelf(p["lowShelf"], p["lowGain"], True), shelf(p["highShelf"], p["highGain"], False)]
    for side, kind in (("low", "highpass"), ("high", "lowpass")):
        if p[f"{side}Slope"] != "off":
            filters.append(signal.butter(int(p[f"{side}Slope"]) // 6, p[f"{side}Cut"], kind, fs=RATE))
    return np.prod([signal.freqz(b, a, HZ, fs=RATE)[1] for b, a in filters], axis=0)


chains = []
for _ in range(200):
    row = [eq() for _ in range(rng.integers(1, 4))]
    db = 20 * np.log10(np.abs(np.prod([response(p) for p in row], axis=0)))
    chains.append({"row": row, "db": [round(float(x), 4) for x in db]})
with open("core/src/net/scipy.reference.json", "w") as out:
    json.dump({"made_by": f"SciPy {scipy.__version__}", "hz": HZ, "chains": chains}, out)
