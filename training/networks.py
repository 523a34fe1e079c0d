"""The network of the learned cleaners, and the pairs that it learns from."""
import glob
import os
import re

import numpy as np
import torch

from learning import PAIRS, Residual, tensor

# Input planes: Y, Cb, Cr of the picture and of the estimate's change; severity of luminance's and of
# colour's compression; whether colour was halved; noise; distance to a block's middle in x and in y.
PLANES = 12
# The estimate's change is small; it is given enlarged.
CHANGE_GAIN = 4.0
# 0.299, 0.587, 0.114 and the differences of JFIF 1.02, as rows for R, G, B.
TO_YCC = torch.tensor([[0.299, 0.587, 0.114],
                       [-0.168736, -0.331264, 0.5],
                       [0.5, -0.418688, -0.081312]])
TO_RGB = torch.tensor([[1.0, 0.0, 1.402],
                       [1.0, -0.344136, -0.714136],
                       [1.0, 1.772, 0.0]])


def recolour(x: torch.Tensor, matrix: torch.Tensor) -> torch.Tensor:
    return torch.einsum('ij,njhw->nihw', matrix, x)


def cleaner() -> Residual:
    """At half resolution; gives what is to be added to the classical estimate's Y, Cb, Cr."""
    return Residual(PLANES, channels=48, blocks=4, unshuffle=2, shuffle=2)


class Shard:
    """Pairs of one file of training/pairs.ts, read where they lie. `facts` are told of each, the first six of which are
    those that `batch` reads."""

    def __init__(self, name: str, facts: int = 6) -> None:
        path = os.path.join(PAIRS, name)
        self.facts = np.fromfile(f'{path}.facts', np.float32).reshape(-1, facts)
        count = len(self.facts)
        side = int(round((os.path.getsize(f'{path}.clean') / 3 / count) ** 0.5))
        shape = (count, side, side, 3)
        self.clean = np.memmap(f'{path}.clean', np.uint8, 'r', shape=shape)
        self.given = np.memmap(f'{path}.given', np.uint8, 'r', shape=shape)
        self.estimate = np.memmap(f'{path}.estimate', np.int16, 'r', shape=shape)


def shards(kind: str) -> list:
    names = sorted(os.path.basename(p)[:-6] for p in glob.glob(os.path.join(PAIRS, f'{kind}-*.facts')))
    return [Shard(name) for name in names if re.fullmatch(f'{kind}-\\d+', name)]


def positions(origins: np.ndarray, side: int) -> torch.Tensor:
    """Distance to the middle of a block, 0–1, along one axis, for each pair."""
    at = (np.arange(side)[None] - origins[:, None]) % 8
    return torch.from_numpy((np.abs(at - 3.5) / 3.5).astype(np.float32))


def batch(shard: Shard, index: np.ndarray, side: int, at=(0, 0)):
    """Input planes, the estimate's and the clean picture's Y, Cb, Cr of some pairs."""
    y, x = at
    part = lambda values: values[index][:, y:y + side, x:x + side]
    clean = recolour(tensor(part(shard.clean), 255), TO_YCC)
    given = recolour(tensor(part(shard.given), 255), TO_YCC)
    estimate = recolour(tensor(part(shard.estimate), 255 * 64), TO_YCC)
    facts = shard.facts[index]
    count = len(index)
    told = torch.from_numpy(facts[:, :4].copy()).view(count, 4, 1, 1).expand(count, 4, side, side)
    # Where a picture was never compressed there are no blocks to tell of.
    blocky = torch.from_numpy((facts[:, 0] > 0).astype(np.float32)).view(count, 1, 1, 1)
    across = positions(facts[:, 4] - x, side).view(count, 1, 1, side).expand(count, 1, side, side)
    down = positions(facts[:, 5] - y, side).view(count, 1, side, 1).expand(count, 1, side, side)
    planes = torch.cat([given, (estimate - given) * CHANGE_GAIN, told, across * blocky, down * blocky], 1)
    return planes, estimate, clean
