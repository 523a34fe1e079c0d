"""Trains a cleaner: python3 training/train.py compression|noise MINUTES [START.pt]

Prints figures of the held-out photographs as it goes: gain over the classical estimate in dB, of
luminance and of R, G, B. Writes .data/KIND.pt whenever they are better than before.
"""
import math
import os
import random
import sys
import time

import numpy as np
import torch

from networks import HERE, Cleaner, Shard, TO_RGB, batch, recolour, shards

KIND, MINUTES = sys.argv[1], float(sys.argv[2])
START = sys.argv[3] if len(sys.argv) > 3 else None
BATCH, SIDE, RATE = 8, 72, 8e-4
LEVELS = {'compression': (10, 30, 60), 'noise': (5, 15, 25)}[KIND]
# A third of a level: errors below it are not worth more effort.
FLOOR = (0.33 / 255) ** 2

torch.set_num_threads(int(os.environ.get('THREADS', '1')))
random.seed(1)
np.random.seed(1)
torch.manual_seed(1)


def errors(ycc: torch.Tensor, clean: torch.Tensor):
    """Mean squares of each pair, of luminance and of R, G, B."""
    off = ycc - clean
    return (off[:, 0] ** 2).mean((1, 2)), (recolour(off, TO_RGB) ** 2).mean((1, 2, 3))


def loss(ycc: torch.Tensor, clean: torch.Tensor) -> torch.Tensor:
    """Mean of the decibels themselves, so that every pair counts alike, however damaged it is."""
    luma, rgb = errors(ycc, clean)
    return (torch.log(luma + FLOOR) + torch.log(rgb + FLOOR)).mean()


HELD = []
for level in LEVELS:
    shard = Shard(f'held-out-{KIND}-{level}')
    HELD.append((level, batch(shard, np.arange(len(shard.facts)), 256)))


def held_out(model: Cleaner):
    model.eval()
    gains = []
    with torch.no_grad():
        for _, (planes, estimate, clean) in HELD:
            before = errors(estimate, clean)
            after = errors(estimate + model(planes), clean)
            gains.append([float((10 * torch.log10(b / a)).mean()) for a, b in zip(after, before)])
    model.train()
    return gains


model = Cleaner()
if START:
    model.load_state_dict(torch.load(START))
average = {name: value.clone() for name, value in model.state_dict().items()}
optimiser = torch.optim.Adam(model.parameters(), RATE, betas=(0.9, 0.99))
begun = time.time()
best = -math.inf
step = 0
pools = shards(KIND)
looked = time.time()
while True:
    passed = (time.time() - begun) / 60 / MINUTES
    if passed >= 1:
        break
    if time.time() - looked > 120:  # more pairs may have been written meanwhile
        pools, looked = shards(KIND), time.time()
    for group in optimiser.param_groups:
        group['lr'] = RATE * max(0.01, min(1, step / 200) * 0.5 * (1 + math.cos(math.pi * passed)))
    pool = random.choices(pools, [len(pool.facts) for pool in pools])[0]
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
    value = loss(estimate + model(planes.contiguous()), clean)
    optimiser.zero_grad()
    value.backward()
    torch.nn.utils.clip_grad_norm_(model.parameters(), 1.0)
    optimiser.step()
    step += 1
    with torch.no_grad():
        for name, weights in model.state_dict().items():
            average[name].mul_(0.998).add_(weights, alpha=0.002)
    if step % 400 == 0:
        kept = {name: weights.clone() for name, weights in model.state_dict().items()}
        model.load_state_dict(average)
        gains = held_out(model)
        score = sum(sum(pair) for pair in gains)
        if score > best:
            best = score
            torch.save(average, os.path.join(HERE, '.data', f'{KIND}.pt'))
        words = '  '.join(f'{level}: {luma:+.3f} {rgb:+.3f}' for (level, _), (luma, rgb) in zip(HELD, gains))
        print(f'{step} {(time.time() - begun) / 60:.1f} min  {words}', flush=True)
        model.load_state_dict(kept)
