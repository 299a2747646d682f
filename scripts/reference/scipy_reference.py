"""Reference values for core/src/cabinet/scipy.test.ts: made by SciPy, not by Fulgor. Run by hand: python3 scripts/reference/scipy_reference.py"""
import json
import numpy as np
import scipy
from scipy import signal, special

rng = np.random.default_rng(48)
n = np.arange(256)
# a response of a few resonances, smooth enough to be band-limited
taps = sum(a * np.exp(-n / d) * np.sin(2 * np.pi * f * n / 48_000 + p) for a, d, f, p in
           [(0.7, 30, 180, 0.4), (0.9, 22, 900, 1.2), (0.5, 14, 2_400, 0.1), (0.3, 9, 4_100, 2.0)])
taps[:8] *= np.sin(np.linspace(0, np.pi / 2, 8)) ** 2
noise = signal.lfilter(*signal.butter(12, 9_000, fs=48_000), rng.standard_normal(300)) * np.hanning(300)
padded = np.concatenate([np.zeros(512), noise, np.zeros(512)])
up, down = 147, 160
filt = signal.firwin(160 * 128 + 1, 0.985 / 160, window=("kaiser", 14.0))
reference = {
    "made_by": f"SciPy {scipy.__version__}, NumPy {np.__version__}",
    "taps": taps.tolist(),
    "minimumPhase": signal.minimum_phase(taps, method="homomorphic", n_fft=16_384, half=False).tolist(),
    "signal": noise.tolist(),
    "convolved": signal.fftconvolve(noise, taps).tolist(),
    # 48 kHz to 44.1 kHz, with silence around so that no edge is cut
    "resampled": signal.resample_poly(padded, up, down, window=filt).tolist(),
    "pad": 512,
    "j1": [[x, float(special.j1(x))] for x in [0.1, 0.5, 1, 1.8412, 2, 3, 3.8317, 5, 7.0156, 10, 20]],
    "butterworth": {
        slope: [[f, float(20 * np.log10(abs(signal.freqs(*signal.butter(order, 2 * np.pi * 4_000, analog=True), worN=[2 * np.pi * f])[1][0])))]
                for f in [1_000, 2_000, 4_000, 8_000, 16_000]]
        for slope, order in [("6", 1), ("12", 2), ("24", 4)]
    },
}
with open("core/src/cabinet/scipy.reference.json", "w") as out:
    json.dump({k: ([round(v, 9) for v in val] if isinstance(val, list) and val and isinstance(val[0], float) else val) for k, val in reference.items()}, out)
