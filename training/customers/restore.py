"""Trains what restores a file as it was before it was damaged, told what happened to it.

    python3 training/customers/restore.py MINUTES [RATE]

It is a cleaner (training/networks.py) of five more planes, and begins as the one that takes out compression. Reads the
pairs of training/customers/pairs.ts; prints, for the photographs that are held out, gains over the file as it came and
over the classical estimate, in dB of R, G, B, told the truth. kill -STOP and -CONT pause it.
"""
import os
import random
import re
import sys
import glob

import numpy as np
import torch

from learning_loop import train
from damage import CASES, SPREAD
from learning import FLOOR, MODELS, PAIRS, Residual, tensor, weights_in
from networks import PLANES, Shard, TO_RGB, batch, recolour

BATCH, SIDE = 8, 80
# Blur, grain, sharpening, resizing, and how unsure all that is; noise is told as the cleaners are told it.
MORE = ('blur', 'grain', 'sharpening', 'resized')
NOISE = 3
NOISE_SPREAD = SPREAD['noise'] * 12 / 50


def customer_shard(name: str) -> Shard:
    return Shard(name, 6 + len(MORE))


def restorer() -> Residual:
    return Residual(PLANES + len(MORE) + 1, channels=48, blocks=4, unshuffle=2, shuffle=2)


def begun() -> dict:
    """Weights of the cleaner, which sees nothing yet of what else it is told."""
    weights = dict(weights_in(os.path.join(MODELS, 'clean-compression.onnx')))
    head = weights['head.weight']
    more = torch.zeros(head.shape[0], 4 * (len(MORE) + 1), 3, 3)
    weights['head.weight'] = torch.cat([head, more], 1)
    return weights


def told(facts: np.ndarray, as_measured: bool, side: int) -> torch.Tensor:
    """The planes beyond a cleaner's; `facts`' noise is changed in place."""
    count = len(facts)
    more = torch.from_numpy(facts[:, 6:].copy())
    unsure = torch.zeros(count, 1)
    if as_measured:
        unsure = torch.rand(count, 1) ** 2
        spread = torch.tensor([SPREAD[name] for name in MORE])
        more = (more + spread * unsure * torch.randn(count, len(MORE))).clamp(min=0)
        off = NOISE_SPREAD * unsure[:, 0].numpy() * np.random.randn(count)
        facts[:, NOISE] = np.maximum(0, facts[:, NOISE] + off)
    return torch.cat([more, unsure], 1)[:, :, None, None].expand(-1, -1, side, side)


class Told:
    """A shard with the facts of some pairs as they are told, for `batch`."""

    def __init__(self, shard: Shard, index: np.ndarray, as_measured: bool, side: int) -> None:
        self.clean, self.given, self.estimate = (v[index] for v in (shard.clean, shard.given, shard.estimate))
        self.facts = shard.facts[index].copy()
        self.more = told(self.facts, as_measured, side)


def planes_of(shard: Shard, index: np.ndarray, side: int, at=(0, 0), as_measured=True) -> tuple:
    some = Told(shard, index, as_measured, side)
    planes, estimate, clean = batch(some, np.arange(len(index)), side, at)
    return torch.cat([planes, some.more], 1), estimate, clean


def errors(ycc: torch.Tensor, clean: torch.Tensor) -> tuple:
    off = ycc - clean
    return (off[:, 0] ** 2).mean((1, 2)), (recolour(off, TO_RGB) ** 2).mean((1, 2, 3))


if __name__ == '__main__':
    names = sorted(os.path.basename(p)[:-6] for p in glob.glob(os.path.join(PAIRS, 'customers-*.facts')))
    SHARDS = [customer_shard(name) for name in names if re.fullmatch(r'customers-\d+', name)]
    HELD = {}
    for case in CASES:
        shard = customer_shard(f'customers-held-out-{case}'.replace(' ', '-'))
        index = np.arange(len(shard.facts))
        HELD[case] = (planes_of(shard, index, shard.clean.shape[1], as_measured=False), tensor(shard.given[index], 255))
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
