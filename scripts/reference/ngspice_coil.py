"""
Response of coil, pots and cable by ngspice (Debian package "ngspice"): writes core/src/riffs/ngspice.reference.json.
Values in ohm, henry and farad are those of core/src/riffs/pickups.ts, typed here again by hand.
"""
import json
import pathlib
import subprocess
import tempfile

COILS = {
    "bridge": (8200, 4.6, 200e3),
    "neck": (7600, 4.2, 200e3),
    "middle-neck": (3100, 1.2, 111e3),
    "split": (4100, 2.2, 200e3),
    "single": (6200, 2.4, 111e3),
}
CAPACITANCE = 560e-12
HZ = [100, 1000, 2000, 3000, 4000, 5000, 7000, 10000]

result = {}
with tempfile.TemporaryDirectory() as folder:
    for name, (resistance, inductance, load) in COILS.items():
        rows = []
        for hz in HZ:
            netlist = pathlib.Path(folder) / "coil.cir"
            netlist.write_text(
                f"""* {name}
V1 in 0 AC 1
R1 in a {resistance}
L1 a out {inductance}
R2 out 0 {load}
C1 out 0 {CAPACITANCE}
.ac lin 1 {hz} {hz}
.control
run
print vdb(out)
.endc
.end
"""
            )
            text = subprocess.run(["ngspice", "-b", str(netlist)], capture_output=True, text=True).stdout
            line = next(l for l in text.splitlines() if l.startswith("vdb(out)"))
            rows.append(round(float(line.split("=")[1]), 4))
        result[name] = rows
out = pathlib.Path(__file__).parents[2] / "core/src/riffs/ngspice.reference.json"
out.write_text(json.dumps({"hz": HZ, "db": result}, indent=1) + "\n")
