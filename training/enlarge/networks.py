"""The network of the learned enlargements, and the pairs that it learns from."""
import glob
import os
import random
import re
import sys

import numpy as np
import torch

sys.path.insert(1, os.path.join(os.path.dirname(os.path.abspath(__file__)), '..'))
from learning import PAIRS, Residual, tensor  # noqa: E402

FACTOR = 4

# Zeros beyond a patch's border are not what a picture has there.
RIM = 4 * FACTOR
# Input planes: R, G, B of the cleaned picture; severity of luminance's and of colour's compression.
PLANES = 5


def bicubic_matrix(count: int) -> torch.Tensor:
    """Catmull-Rom x4 along one axis, taps outside left out and the rest renormalised, as the core's."""
    matrix = np.zeros((count * FACTOR, count))
    for i in range(count * FACTOR):
        centre = (i + 0.5) / FACTOR - 0.5
        for k in range(max(0, int(np.floor(centre)) - 1), min(count, int(np.floor(centre)) + 3)):
            x = abs(k - centre)
            weight = (1.5 * x - 2.5) * x * x + 1 if x < 1 else ((-0.5 * x + 2.5) * x - 4) * x + 2 if x < 2 else 0
            matrix[i, k] = weight
        matrix[i] /= matrix[i].sum()
    return torch.from_numpy(matrix).float()


MATRICES: dict = {}


def bicubic(x: torch.Tensor) -> torch.Tensor:
    for count in x.shape[2:]:
        if count not in MATRICES:
            MATRICES[count] = bicubic_matrix(count)
    return MATRICES[x.shape[2]] @ x @ MATRICES[x.shape[3]].T


def enlarger(blocks: int = 4) -> Residual:
    """Gives what is to be added to the bicubic enlargement's R, G, B."""
    return Residual(PLANES, channels=32, blocks=blocks, unshuffle=1, shuffle=FACTOR)


class Shard:
    """Pairs of one file of training/enlarge/pairs.ts, read where they lie."""

    def __init__(self, name: str, side: int = 64) -> None:
        path = os.path.join(PAIRS, f'enlarge-{name}')
        self.facts = np.fromfile(f'{path}.facts', np.float32).reshape(-1, 2)
        count = min(len(self.facts), os.path.getsize(f'{path}.small') // (side * side * 6))
        self.facts = self.facts[:count]
        large = side * FACTOR
        self.side = side
        self.large = np.memmap(f'{path}.large', np.uint8, 'r', shape=(count, large, large, 3))
        self.small = np.memmap(f'{path}.small', np.int16, 'r', shape=(count, side, side, 3))


def shards(kind: str) -> list:
    names = sorted(os.path.basename(p)[8:-6] for p in glob.glob(os.path.join(PAIRS, f'enlarge-{kind}-*.facts')))
    return [shard for shard in (Shard(name) for name in names if re.fullmatch(f'{kind}-\\d+', name)) if len(shard.facts) > 8]


def batch(shard: Shard, index: np.ndarray, side: int, at=(0, 0)):
    """Input planes and the large pictures of some pairs."""
    y, x = at
    small = tensor(shard.small[index][:, y:y + side, x:x + side], 255 * 64)
    four = FACTOR
    large = tensor(shard.large[index][:, y * four:(y + side) * four, x * four:(x + side) * four], 255)
    told = torch.from_numpy(shard.facts[index].copy()).view(len(index), 2, 1, 1).expand(len(index), 2, side, side)
    return torch.cat([small, told], 1), large


def augmented(pool: Shard, count: int, side: int) -> tuple:
    """Pairs at random, turned and mirrored."""
    index = np.sort(np.random.randint(0, len(pool.facts), count))
    room = pool.side - side
    planes, truth = batch(pool, index, side, (random.randint(0, room), random.randint(0, room)))
    if random.random() < 0.5:
        planes, truth = planes.transpose(2, 3), truth.transpose(2, 3)
    for axis in (2, 3):
        if random.random() < 0.5:
            planes, truth = planes.flip(axis), truth.flip(axis)
    if random.random() < 0.5:  # colours change places
        order = torch.randperm(3)
        planes = torch.cat([planes[:, :3][:, order], planes[:, 3:]], 1)
        truth = truth[:, order]
    return planes.contiguous(), truth


def held_out(kind: str) -> list:
    """What no model learns from, by case: its name, input planes, large pictures."""
    found = []
    for case in ('clean', '75', '30'):
        shard = Shard(f'held-out-{kind}-{case}', 96)
        found.append((case, batch(shard, np.arange(len(shard.facts)), 96)))
    return found


def errors(found: torch.Tensor, truth: torch.Tensor) -> torch.Tensor:
    return ((found - truth) ** 2)[:, :, RIM:-RIM, RIM:-RIM].mean((1, 2, 3))
