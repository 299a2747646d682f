"""
Response of an electric guitar's circuit by ngspice (Debian package "ngspice"): writes core/src/signal/guitar/ngspice.reference.json.
Coil, volume pot with or without treble bleed, tone pot with its capacitor before the volume pot, cable and input. Wiper positions are
given as shares of the track; the audio taper's are typed here by hand: (81^(p/10) - 1) / 80.
"""
import json
import pathlib
import subprocess
import tempfile

AUDIO = {10: 1.0, 7: (81**0.7 - 1) / 80, 5: (81**0.5 - 1) / 80, 4: (81**0.4 - 1) / 80, 1: (81**0.1 - 1) / 80, 0: 0.0}
LINEAR = {p: p / 10 for p in AUDIO}
CIRCUITS = {
    "single coil, no bleed": dict(R=6200, L=2.5, C=110e-12, RV=250e3, vt=AUDIO, RT=250e3, CT=22e-9, tt=AUDIO, cable=600e-12, RIN=1e6, bleed=None),
    "humbucker, capacitor alone": dict(R=8200, L=4.6, C=150e-12, RV=500e3, vt=LINEAR, RT=500e3, CT=22e-9, tt=AUDIO, cable=450e-12, RIN=1e6, bleed=("beside", 1e-9, 0)),
    "humbucker, capacitor beside 150k": dict(R=8200, L=4.6, C=150e-12, RV=500e3, vt=AUDIO, RT=500e3, CT=47e-9, tt=LINEAR, cable=450e-12, RIN=1e6, bleed=("beside", 0.68e-9, 150e3)),
    "single coil, capacitor behind 130k": dict(R=5600, L=2.2, C=100e-12, RV=250e3, vt=AUDIO, RT=250e3, CT=47e-9, tt=AUDIO, cable=1000e-12, RIN=500e3, bleed=("behind", 1.2e-9, 130e3)),
}
SETTINGS = [(10, 10), (10, 5), (10, 0), (7, 10), (7, 5), (7, 0), (4, 10), (4, 5), (1, 10)]
HZ = [100, 300, 1000, 2000, 3000, 4000, 5000, 7000, 10000]


def netlist(c, volume, tone, hz):
    share, tshare = c["vt"][volume], c["tt"][tone]
    lines = [
        "* guitar",
        "V1 in 0 AC 1",
        f"R1 in a {c['R']}",
        f"L1 a c {c['L']}",
        f"C1 c 0 {c['C']}",
        f"RT c t {tshare * c['RT'] + 1}",
        f"CT t 0 {c['CT']}",
        f"RA c w {(1 - share) * c['RV'] + 1}",
        f"RB w 0 {share * c['RV'] + 1}",
        f"CC w 0 {c['cable']}",
        f"RI w 0 {c['RIN']}",
    ]
    if c["bleed"]:
        way, farad, ohm = c["bleed"]
        if way == "beside":
            lines.append(f"CB c w {farad}")
            if ohm:
                lines.append(f"RP c w {ohm}")
        else:
            lines += [f"CB c x {farad}", f"RP x w {ohm}"]
    lines += [f".ac lin 1 {hz} {hz}", ".control", "run", "print vdb(w)", ".endc", ".end", ""]
    return "\n".join(lines)


result = {}
with tempfile.TemporaryDirectory() as folder:
    path = pathlib.Path(folder) / "guitar.cir"
    for name, c in CIRCUITS.items():
        result[name] = {}
        for volume, tone in SETTINGS:
            row = []
            for hz in HZ:
                path.write_text(netlist(c, volume, tone, hz))
                text = subprocess.run(["ngspice", "-b", str(path)], capture_output=True, text=True).stdout
                line = next(l for l in text.splitlines() if l.startswith("vdb(w)"))
                row.append(round(float(line.split("=")[1]), 4))
            result[name][f"{volume} {tone}"] = row
out = pathlib.Path(__file__).parents[2] / "core/src/signal/guitar/ngspice.reference.json"
out.write_text(json.dumps({"hz": HZ, "db": result}) + "\n")
