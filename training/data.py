"""Windows of the crops that `./fennip train data` lays out, with what the net is to say of them."""

import glob
import json

import numpy as np
import torch

DARK, BRIGHT, LINE, UNSEEN = 1, 2, 4, 8
LEAST_STANDING_OUT = 1.0


class Crops:
    """Red, green, blue and truth of each crop, plane after plane, as they lie on disk in one folder for each batch."""

    def __init__(self, folder: str):
        self.folder, self.batches, self.crops, self.places = folder, {}, [], []
        self.look()

    def look(self) -> None:
        """Takes in the batches that are there by now; they may still be laid out while the net learns."""
        for path in sorted(glob.glob(f"{self.folder}/*/crops.json")):
            if path in self.batches:
                continue
            with open(path) as file:
                described = json.load(file)
            self.side = described["side"]
            shape = (len(described["crops"]), 4, self.side, self.side)
            name = path.replace("crops.json", "crops.bin")
            self.batches[path] = np.memmap(name, dtype=np.uint8, mode="r", shape=shape)
            for k, crop in enumerate(described["crops"]):
                self.crops.append(crop)
                self.places.append((path, k))

    def bytes_of(self, index: int) -> np.ndarray:
        """Of shape (4, side, side)."""
        path, k = self.places[index]
        return self.batches[path][k]

    def __len__(self):
        return len(self.crops)


def planes_of(rgb: np.ndarray) -> np.ndarray:
    """Four planes of what the net looks at, from codes 0 to 255 of shape (3, height, width).

    Red, green and blue from -1 to 1; then log luma, less its mean over 36 pixels, over its spread there.
    """
    colour = rgb.astype(np.float32) / 255.0
    luma = np.log(0.2126 * colour[0] + 0.7152 * colour[1] + 0.0722 * colour[2] + 0.02)
    mean = box_mean(luma)
    spread = np.sqrt(np.maximum(box_mean(luma * luma) - mean * mean, 0)) + 0.02
    return np.concatenate([2 * colour - 1, ((luma - mean) / spread)[None]]).astype(np.float32)


def box_mean(values: np.ndarray, radius: int = 18) -> np.ndarray:
    """Mean over a square of 2 x radius + 1, over what there is of it at the border."""
    height, width = values.shape
    sums = np.zeros((height + 1, width + 1), np.float64)
    sums[1:, 1:] = values.cumsum(0, dtype=np.float64).cumsum(1)
    top, bottom = np.clip(np.arange(height) - radius, 0, None), np.clip(np.arange(height) + radius + 1, None, height)
    left, right = np.clip(np.arange(width) - radius, 0, None), np.clip(np.arange(width) + radius + 1, None, width)
    total = sums[bottom][:, right] - sums[top][:, right] - sums[bottom][:, left] + sums[top][:, left]
    count = (bottom - top)[:, None] * (right - left)[None, :]
    return (total / count).astype(np.float32)


def targets_of(truth: np.ndarray, specks) -> np.ndarray:
    """What the net is to say at half the resolution: two heats, log radius and where it counts, three masks, weight."""
    side = truth.shape[0] // 2
    out = np.zeros((8, side, side), np.float32)
    ys, xs = np.mgrid[0:side, 0:side].astype(np.float32)
    for x, y, r, polarity, stands in specks:
        cx, cy, radius = x / 2 - 0.5, y / 2 - 0.5, max(r / 2, 0.5)
        reach = int(np.ceil(max(2.0, radius) * 1.5)) + 2
        x0, x1 = max(0, int(cx) - reach), min(side, int(cx) + reach + 1)
        y0, y1 = max(0, int(cy) - reach), min(side, int(cy) + reach + 1)
        if x0 >= x1 or y0 >= y1:
            continue
        part = (slice(y0, y1), slice(x0, x1))
        square = (xs[part] - cx) ** 2 + (ys[part] - cy) ** 2
        if stands < LEAST_STANDING_OUT:
            continue
        sigma = max(0.8, 0.3 * radius)
        heat = np.exp(-0.5 * square / sigma**2)
        # The pixel that holds the centre says so fully.
        px, py = int(np.clip(round(cx), 0, side - 1)), int(np.clip(round(cy), 0, side - 1))
        out[int(polarity)][part] = np.maximum(out[int(polarity)][part], heat)
        out[int(polarity), py, px] = 1
        near = square < max(1.0, 0.5 * radius) ** 2
        out[2][part] = np.where(near, np.log(r), out[2][part])
        out[3][part] = np.where(near, 1, out[3][part])
    blocks = truth.reshape(side, 2, side, 2)
    for k, bit in ((4, DARK), (5, BRIGHT), (6, LINE)):
        out[k] = ((blocks & bit) > 0).max(axis=(1, 3))
    # What nobody sees says nothing either way, unless something that is seen lies there too.
    unseen = ((blocks & UNSEEN) > 0).max(axis=(1, 3))
    out[7] = np.where(unseen & (out[4:7].max(axis=0) == 0), 0, 1)
    return out


def turned(values: np.ndarray, turn: int, mirrored: bool) -> np.ndarray:
    values = np.rot90(values, turn, axes=(-2, -1))
    return values[..., ::-1] if mirrored else values


def turned_specks(specks, turn: int, mirrored: bool, side: int):
    for x, y, r, polarity, stands in specks:
        for _ in range(turn):
            x, y = y, side - x
        yield (side - x if mirrored else x), y, r, polarity, stands


def batch(crops: Crops, rng: np.random.Generator, size: int, window: int):
    """A batch of windows by chance, turned and mirrored, with their targets."""
    planes, targets = [], []
    for _ in range(size):
        k = int(rng.integers(len(crops)))
        left, top = (int(rng.integers(crops.side - window + 1)) for _ in range(2))
        cut = np.asarray(crops.bytes_of(k)[:, top : top + window, left : left + window])
        specks = [(x - left, y - top, r, p, s) for x, y, r, p, s in crops.crops[k]["specks"]]
        turn, mirrored = int(rng.integers(4)), bool(rng.integers(2))
        cut = np.ascontiguousarray(turned(cut, turn, mirrored))
        planes.append(planes_of(cut[:3]))
        targets.append(targets_of(cut[3], turned_specks(specks, turn, mirrored, window)))
    return torch.from_numpy(np.stack(planes)), torch.from_numpy(np.stack(targets))
