"""Trains the seeing net on crops that are laid out on disk. In parts: each run goes on from the last checkpoint.

/usr/bin/python3 training/train.py DATA CHECKPOINTS --minutes 60
"""

import argparse
import itertools
import json
import os
import time

import numpy as np
import torch

from data import Crops, batch
from model import SeeingNet

# With fewer than sixteen windows at once this version of torch takes a slow way for small convolutions.
BATCH, WINDOW = 16, 192
RATE, LEAST_RATE = 2.5e-3, 5e-5
# What is exported is the running mean of the numbers over the last thousand steps or so.
KEEPS = 0.999


class Batches(torch.utils.data.IterableDataset):
    """Batches from a step on, each by a seed of its own; made in a process of its own while the net learns from the last."""

    def __init__(self, crops: Crops, step: int):
        self.crops, self.step = crops, step

    def __iter__(self):
        torch.set_num_threads(1)
        for step in itertools.count(self.step):
            if step % 250 == 0:
                self.crops.look()
            yield batch(self.crops, np.random.default_rng(1_000_003 * step + 17), BATCH, WINDOW)


def loss_of(out: torch.Tensor, target: torch.Tensor) -> torch.Tensor:
    weight = target[:, 7]
    total = 0.0
    # Focal loss of heats (Lin et al. 2017, as Law and Deng 2018 use it for centres): powers 2 and 4.
    for k in (0, 1):
        p = torch.sigmoid(out[:, k]).clamp(1e-4, 1 - 1e-4)
        heat = target[:, k]
        centre = (heat >= 1).float()
        at = -centre * (1 - p) ** 2 * p.log()
        off = -(1 - centre) * (1 - heat) ** 4 * p**2 * (1 - p).log()
        total = total + (weight * (at + off)).sum() / centre.sum().clamp(min=4)
    near = target[:, 3]
    total = total + 0.5 * (near * (out[:, 2] - target[:, 2]).abs()).sum() / near.sum().clamp(min=20)
    for k in (3, 4, 5):
        logit, mask = out[:, k], target[:, k + 1]
        entropy = torch.nn.functional.binary_cross_entropy_with_logits(logit, mask, reduction="none")
        # Faults are rare: each of their pixels counts four times.
        total = total + (weight * entropy * (1 + 3 * mask)).mean() * 4
        p = torch.sigmoid(logit) * weight
        both = (p * mask).sum(dim=(1, 2))
        dice = 1 - (2 * both + 8) / ((p * p).sum(dim=(1, 2)) + mask.sum(dim=(1, 2)) + 8)
        total = total + (dice * (mask.sum(dim=(1, 2)) > 0)).mean()
    return total


def validate(net: SeeingNet, crops: Crops) -> float:
    net.eval()
    rng = np.random.default_rng(5)
    with torch.no_grad():
        losses = [float(loss_of(net(planes), target)) for planes, target in (batch(crops, rng, 16, WINDOW) for _ in range(12))]
    net.train()
    return float(np.mean(losses))


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("data")
    parser.add_argument("checkpoints")
    parser.add_argument("--minutes", type=float, default=60)
    # The rate falls over so many steps; a run that goes on with more begins again from a higher one.
    parser.add_argument("--steps", type=int, default=40_000)
    parser.add_argument("--threads", type=int, default=1)
    args = parser.parse_args()
    torch.set_num_threads(args.threads)
    os.makedirs(args.checkpoints, exist_ok=True)
    path = f"{args.checkpoints}/net.pt"
    torch.manual_seed(1)
    net = SeeingNet()
    optimiser = torch.optim.AdamW(net.parameters(), lr=RATE, weight_decay=1e-4)
    step, kept = 0, {}
    if os.path.exists(path):
        kept = torch.load(path)
        net.load_state_dict(kept["net"])
        optimiser.load_state_dict(kept["optimiser"])
        step = kept["step"]
    average = kept["average"] if step > 0 else {name: value.clone() for name, value in net.state_dict().items()}
    training, validation = Crops(f"{args.data}/training"), Crops(f"{args.data}/validation")
    print(f"{sum(p.numel() for p in net.parameters())} parameters, from step {step}", flush=True)
    begun, running = time.time(), []
    batches = torch.utils.data.DataLoader(Batches(training, step), batch_size=None, num_workers=1, prefetch_factor=4)
    for planes, target in batches:
        if time.time() - begun > args.minutes * 60:
            break
        part = min(1.0, step / args.steps)
        rate = LEAST_RATE + 0.5 * (RATE - LEAST_RATE) * (1 + np.cos(np.pi * part))
        for group in optimiser.param_groups:
            group["lr"] = rate * min(1.0, (step + 1) / 200)
        loss = loss_of(net(planes), target)
        optimiser.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(net.parameters(), 5.0)
        optimiser.step()
        with torch.no_grad():
            for name, value in net.state_dict().items():
                average[name].mul_(KEEPS).add_(value, alpha=1 - KEEPS)
        running.append(float(loss))
        step += 1
        if step % 250 == 0:
            kept = {"net": net.state_dict(), "average": average, "optimiser": optimiser.state_dict(), "step": step}
            torch.save(kept, f"{path}.part")
            os.replace(f"{path}.part", path)
            line = {"step": step, "seconds": round(time.time() - begun), "loss": round(float(np.mean(running)), 4), "crops": len(training)}
            training.look()
            if step % 1000 == 0:
                averaged = SeeingNet()
                averaged.load_state_dict(average)
                line["validation"] = round(validate(averaged, validation), 4)
            with open(f"{args.checkpoints}/log.jsonl", "a") as log:
                log.write(json.dumps(line) + "\n")
            print(line, flush=True)
            running = []


if __name__ == "__main__":
    main()
