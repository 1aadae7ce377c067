"""Writes the net of a checkpoint as an ONNX file, with numbers that a test holds it against.

/usr/bin/python3 training/export.py CHECKPOINTS OUT.onnx
"""

import json
import sys

import numpy as np
import onnx
import torch

from model import SeeingNet


def main() -> None:
    checkpoints, out = sys.argv[1:3]
    kept = torch.load(f"{checkpoints}/net.pt")
    net = SeeingNet()
    net.load_state_dict(kept["average"])
    net.eval()
    planes = torch.zeros(1, 4, 64, 96)
    sides = {2: "height", 3: "width"}
    torch.onnx.export(
        net, planes, out, opset_version=13, input_names=["planes"], output_names=["maps"],
        dynamic_axes={"planes": sides, "maps": {2: "halfHeight", 3: "halfWidth"}},
    )
    onnx.checker.check_model(onnx.load(out))
    # A window that anyone can make again: no chance, no file.
    y, x = np.mgrid[0:64, 0:96].astype(np.float32)
    window = np.stack([np.sin(0.11 * (k + 1) * x + 0.07 * y) for k in range(4)])[None].astype(np.float32)
    with torch.no_grad():
        maps = net(torch.from_numpy(window))[0].numpy()
    picked = [[int(c), int(r), int(q), round(float(maps[c, r, q]), 4)] for c in range(6) for r, q in ((3, 5), (16, 24), (30, 44))]
    with open(out.replace(".onnx", ".check.json"), "w") as file:
        json.dump({"step": kept["step"], "mapRowColumnValue": picked}, file)
    print(f"step {kept['step']}, {sum(p.numel() for p in net.parameters())} parameters")


if __name__ == "__main__":
    main()
