"""Trains a cleaner: python3 training/train.py compression|noise MINUTES [START.pt]

Prints figures of the held-out photographs as it goes: gain over the classical estimate in dB, of
luminance and of R, G, B.
"""
import random
import sys

import numpy as np
import torch

from learning import FLOOR, learn
from networks import Shard, TO_RGB, batch, cleaner, recolour, shards

KIND, MINUTES = sys.argv[1], float(sys.argv[2])
START = sys.argv[3] if len(sys.argv) > 3 else None
BATCH, SIDE, RATE = 8, 72, 8e-4
LEVELS = {'compression': (10, 30, 60), 'noise': (5, 15, 25)}[KIND]

model = cleaner()
if START:
    model.load_state_dict(torch.load(START))


def errors(ycc: torch.Tensor, clean: torch.Tensor):
    """Mean squares of each pair, of luminance and of R, G, B."""
    off = ycc - clean
    return (off[:, 0] ** 2).mean((1, 2)), (recolour(off, TO_RGB) ** 2).mean((1, 2, 3))


def loss(pool: Shard) -> torch.Tensor:
    """Mean of the decibels themselves, so that every pair counts alike, however damaged it is."""
    index = np.sort(np.random.randint(0, len(pool.facts), BATCH))
    room = pool.clean.shape[1] - SIDE
    at = (random.randrange(room // 2) * 2, random.randrange(room // 2) * 2)
    planes, estimate, clean = batch(pool, index, SIDE, at)
    if random.random() < 0.5:  # across the diagonal: x and y change places
        planes, estimate, clean = (v.transpose(2, 3) for v in (planes, estimate, clean))
        planes = torch.cat([planes[:, :10], planes[:, 11:12], planes[:, 10:11]], 1)
    for axis in (2, 3):
        if random.random() < 0.5:
            planes, estimate, clean = (v.flip(axis) for v in (planes, estimate, clean))
    luma, rgb = errors(estimate + model(planes.contiguous()), clean)
    return (torch.log(luma + FLOOR) + torch.log(rgb + FLOOR)).mean()


HELD = []
for level in LEVELS:
    shard = Shard(f'held-out-{KIND}-{level}')
    HELD.append((level, batch(shard, np.arange(len(shard.facts)), 256)))


def figures() -> str:
    words = []
    for level, (planes, estimate, clean) in HELD:
        pairs = zip(errors(estimate, clean), errors(estimate + model(planes), clean))
        luma, rgb = [float((10 * torch.log10(before / after)).mean()) for before, after in pairs]
        words.append(f'{level}: {luma:+.3f} {rgb:+.3f}')
    return '  '.join(words)


learn(KIND, model, MINUTES, RATE, lambda: shards(KIND), loss, figures)
