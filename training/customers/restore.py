"""Trains what restores a file as it was before it was damaged, told what happened to it.

    python3 training/customers/restore.py MINUTES [RATE]
    python3 training/customers/restore.py export             writes models/restore.onnx

It is a cleaner (training/networks.py) of eleven more planes, and begins as the one that takes out compression. Reads the
pairs of training/customers/pairs.ts; it is told what was measured of them (measure.py) most of the time, the truth
sometimes, and sometimes what is more or less off, always with how far off it may be. Prints, for the photographs that
are held out, gains over the file as it came and over the classical estimate, in dB of R, G, B, told what was measured.
 kill -STOP and -CONT pause it.
"""
import glob
import os
import random
import re
import sys

import numpy as np
import torch

from learning_loop import newest, train
from damage import CASES
from learning import DATA, FLOOR, MODELS, PAIRS, Residual, export, tensor, weights_in
from networks import PLANES, Shard, TO_RGB, batch, recolour

BATCH, SIDE = 8, 80
# What it is told beyond a cleaner, and of what it is told how far off it may be; noise is told as the cleaners are.
MORE = ('blur', 'grain', 'sharpening', 'resized', 'enlarged')
UNSURE = ('blur', 'noise', 'grain', 'sharpening', 'resized', 'enlarged')
NOISE = 3
NOISE_UNIT = 12 / 50
# As far off as what is known for sure.
SURE = 0.03


class Customers(Shard):
    """Pairs with what is true of each, and what it was measured to be: values and deviations in the order of UNSURE."""

    def __init__(self, name: str) -> None:
        super().__init__(f'customers-{name}'.replace(' ', '-'), 6 + len(MORE))
        blur, grain, sharpening, resized, enlarged = self.facts[:, 6:].T
        self.true = np.stack([blur, self.facts[:, NOISE] / NOISE_UNIT, grain, sharpening, resized, enlarged], 1)
        kept = np.fromfile(os.path.join(DATA, 'customers', name, 'measured.f32'), np.float32)
        # Compression, which comes last, is what a file's own tables say.
        self.measured = kept.reshape(len(self.facts), 2, -1)[:, :, :len(UNSURE)]

    def told(self, index: np.ndarray, learning: bool) -> np.ndarray:
        """Values and deviations of some pairs as they are told."""
        said = []
        for i in index:
            turn = random.random() if learning else 0
            if turn < 0.6:
                said.append(self.measured[i])
            else:
                off = np.full(len(UNSURE), SURE) if turn < 0.8 else SURE + 0.35 * np.random.rand(len(UNSURE)) ** 2
                said.append(np.stack([np.maximum(0, self.true[i] + off * np.random.randn(len(UNSURE))), off]))
        return np.stack(said).astype(np.float32)


def restorer() -> Residual:
    return Residual(PLANES + len(MORE) + len(UNSURE), channels=48, blocks=4, unshuffle=2, shuffle=2)


def begun() -> dict:
    """Weights of the cleaner, which sees nothing yet of what else it is told."""
    weights = dict(weights_in(os.path.join(MODELS, 'clean-compression.onnx')))
    head = weights['head.weight']
    more = torch.zeros(head.shape[0], 4 * (len(MORE) + len(UNSURE)), 3, 3)
    weights['head.weight'] = torch.cat([head, more], 1)
    return weights


class Told:
    """A shard with the facts of some pairs as they are told, for `batch`."""

    def __init__(self, shard: Customers, index: np.ndarray, learning: bool, side: int) -> None:
        self.clean, self.given, self.estimate = (v[index] for v in (shard.clean, shard.given, shard.estimate))
        self.facts = shard.facts[index].copy()
        values, off = shard.told(index, learning).transpose(1, 0, 2)
        self.facts[:, NOISE] = values[:, 1] * NOISE_UNIT
        more = np.concatenate([values[:, [0, 2, 3, 4, 5]], off], 1)
        self.more = torch.from_numpy(more)[:, :, None, None].expand(-1, -1, side, side)


def planes_of(shard: Customers, index: np.ndarray, side: int, at=(0, 0), learning=True) -> tuple:
    some = Told(shard, index, learning, side)
    planes, estimate, clean = batch(some, np.arange(len(index)), side, at)
    return torch.cat([planes, some.more], 1), estimate, clean


def errors(ycc: torch.Tensor, clean: torch.Tensor) -> tuple:
    off = ycc - clean
    return (off[:, 0] ** 2).mean((1, 2)), (recolour(off, TO_RGB) ** 2).mean((1, 2, 3))


if __name__ == '__main__':
    if sys.argv[1] == 'export':
        export(restorer(), torch.load(newest('restore')), PLANES + len(MORE) + len(UNSURE), 'restore.onnx')
        sys.exit()
    names = sorted(os.path.basename(p) for p in glob.glob(os.path.join(DATA, 'customers', '*')))
    SHARDS = [Customers(name) for name in names if re.fullmatch(r'\d+', name)]
    HELD = {}
    for case in CASES:
        shard = Customers(f'held-out-{case}')
        index = np.arange(len(shard.facts))
        HELD[case] = (planes_of(shard, index, shard.clean.shape[1], learning=False), tensor(shard.given[index], 255))
    model = restorer()
    model.load_state_dict(begun())

    def loss(_) -> torch.Tensor:
        shard = random.choice(SHARDS)
        index = np.sort(np.random.randint(0, len(shard.facts), BATCH))
        room = shard.clean.shape[1] - SIDE
        planes, estimate, clean = planes_of(shard, index, SIDE, (random.randrange(room // 2) * 2, random.randrange(room // 2) * 2))
        if random.random() < 0.5:  # across the diagonal: x and y change places
            planes, estimate, clean = (v.transpose(2, 3) for v in (planes, estimate, clean))
            planes = torch.cat([planes[:, :10], planes[:, 11:12], planes[:, 10:11], planes[:, 12:]], 1)
        for axis in (2, 3):
            if random.random() < 0.5:
                planes, estimate, clean = (v.flip(axis) for v in (planes, estimate, clean))
        luma, rgb = errors(estimate + model(planes.contiguous()), clean)
        return (torch.log(luma + FLOOR) + torch.log(rgb + FLOOR)).mean()

    def figures() -> str:
        words = []
        for case, ((planes, estimate, clean), given) in HELD.items():
            now = errors(estimate + model(planes), clean)[1]
            if case == 'perfect':
                words.append(f'{case} {(-10 * torch.log10(now)).min().item():.1f} dB')
                continue
            before = ((recolour(clean, TO_RGB) - given) ** 2).mean((1, 2, 3))
            classical = errors(estimate, clean)[1]
            words.append(f'{case} {(10 * torch.log10(before / now)).mean():+.2f} {(10 * torch.log10(classical / now)).mean():+.2f}')
        return '  '.join(words)

    train('restore', model, float(sys.argv[1]), float(sys.argv[2]) if len(sys.argv) > 2 else 8e-4, loss, figures)
