"""The network of the learned enlargements, and the pairs that it learns from."""
import glob
import os
import re

import numpy as np
import torch
import torch.nn as nn
import torch.nn.functional as F

HERE = os.path.dirname(os.path.abspath(__file__))
DATA = os.path.join(HERE, '..', '.data')
PAIRS = os.path.join(DATA, 'pairs')
FACTOR = 4

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


class Block(nn.Module):
    def __init__(self, channels: int) -> None:
        super().__init__()
        self.first = nn.Conv2d(channels, channels, 3, padding=1)
        self.second = nn.Conv2d(channels, channels, 3, padding=1)

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        return x + self.second(F.leaky_relu(self.first(x), 0.1))


class Enlarger(nn.Module):
    """Gives what is to be added to the bicubic enlargement's R, G, B."""

    def __init__(self, channels: int = 32, blocks: int = 4) -> None:
        super().__init__()
        self.head = nn.Conv2d(PLANES, channels, 3, padding=1)
        self.body = nn.Sequential(*[Block(channels) for _ in range(blocks)])
        self.tail = nn.Conv2d(channels, 3 * FACTOR ** 2, 3, padding=1)
        self.up = nn.PixelShuffle(FACTOR)
        nn.init.zeros_(self.tail.weight)
        nn.init.zeros_(self.tail.bias)

    def begin_from(self, weights: dict) -> None:
        """Takes over a network of fewer blocks; those that are new change nothing at first."""
        missing = self.load_state_dict(weights, strict=False).missing_keys
        for name, value in self.named_parameters():
            if name in missing and '.second.' in name:
                nn.init.zeros_(value)

    def forward(self, planes: torch.Tensor) -> torch.Tensor:
        features = F.leaky_relu(self.head(planes), 0.1)
        return self.up(self.tail(features + self.body(features)))


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


def tensor(values: np.ndarray, scale: float) -> torch.Tensor:
    return torch.from_numpy(np.ascontiguousarray(values.transpose(0, 3, 1, 2)).astype(np.float32)) / scale


def batch(shard: Shard, index: np.ndarray, side: int, at=(0, 0)):
    """Input planes and the large pictures of some pairs."""
    y, x = at
    small = tensor(shard.small[index][:, y:y + side, x:x + side], 255 * 64)
    four = FACTOR
    large = tensor(shard.large[index][:, y * four:(y + side) * four, x * four:(x + side) * four], 255)
    told = torch.from_numpy(shard.facts[index].copy()).view(len(index), 2, 1, 1).expand(len(index), 2, side, side)
    return torch.cat([small, told], 1), large
