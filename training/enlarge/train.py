"""Trains an enlarger: python3 training/enlarge/train.py photo|art MINUTES [START.pt]

START may have fewer blocks than BLOCKS in the environment (4 if unset); RATE is the first step size.
Prints figures of what is held out as it goes: gain over bicubic in dB of R, G, B.
"""
import os
import random
import sys

import numpy as np
import torch

from networks import FACTOR, Shard, batch, bicubic, enlarger, shards
from learning import FLOOR, learn

KIND, MINUTES = sys.argv[1], float(sys.argv[2])
START = sys.argv[3] if len(sys.argv) > 3 else None
BATCH, SIDE, RATE = 8, 40, float(os.environ.get('RATE', '8e-4'))
# Zeros beyond a patch's border are not what a picture has there.
RIM = 4 * FACTOR

model = enlarger(int(os.environ.get('BLOCKS', '4')))
if START:
    model.begin_from(torch.load(START))


def errors(found: torch.Tensor, truth: torch.Tensor) -> torch.Tensor:
    return ((found - truth) ** 2)[:, :, RIM:-RIM, RIM:-RIM].mean((1, 2, 3))


def loss(pool: Shard) -> torch.Tensor:
    """Mean of the decibels themselves, so that every pair counts alike, however much detail it has."""
    index = np.sort(np.random.randint(0, len(pool.facts), BATCH))
    room = pool.side - SIDE
    planes, truth = batch(pool, index, SIDE, (random.randint(0, room), random.randint(0, room)))
    if random.random() < 0.5:
        planes, truth = planes.transpose(2, 3), truth.transpose(2, 3)
    for axis in (2, 3):
        if random.random() < 0.5:
            planes, truth = planes.flip(axis), truth.flip(axis)
    if random.random() < 0.5:  # colours change places
        order = torch.randperm(3)
        planes = torch.cat([planes[:, :3][:, order], planes[:, 3:]], 1)
        truth = truth[:, order]
    planes = planes.contiguous()
    return torch.log(errors(bicubic(planes[:, :3]) + model(planes), truth) + FLOOR).mean()


HELD = []
for case in ('clean', '75', '30'):
    shard = Shard(f'held-out-{KIND}-{case}', 96)
    HELD.append((case, batch(shard, np.arange(len(shard.facts)), 96)))


def figures() -> str:
    words = []
    for case, (planes, truth) in HELD:
        plain = bicubic(planes[:, :3])
        before, after = errors(plain.clamp(0, 1), truth), errors((plain + model(planes)).clamp(0, 1), truth)
        words.append(f'{case}: {float((10 * torch.log10(before / after)).mean()):+.3f}')
    return '  '.join(words)


learn(f'enlarge-{KIND}', model, MINUTES, RATE, lambda: shards(KIND), loss, figures)
