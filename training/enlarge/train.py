"""Trains an enlarger: python3 training/enlarge/train.py photo|art MINUTES [START.pt]

START may have fewer blocks than BLOCKS in the environment (4 if unset); RATE is the first step size.
Prints figures of what is held out as it goes: gain over bicubic in dB of R, G, B. They choose nothing:
.data/enlarge-KIND.pt is what it has come to.
"""
import math
import os
import random
import sys
import time

import numpy as np
import torch

from networks import DATA, FACTOR, Enlarger, Shard, batch, bicubic, shards

KIND, MINUTES = sys.argv[1], float(sys.argv[2])
START = sys.argv[3] if len(sys.argv) > 3 else None
BATCH, SIDE, RATE = 8, 40, float(os.environ.get('RATE', '8e-4'))
# Zeros beyond a patch's border are not what a picture has there.
RIM = 4 * FACTOR
# A third of a level: errors below it are not worth more effort.
FLOOR = (0.33 / 255) ** 2

torch.set_num_threads(int(os.environ.get('THREADS', '1')))
random.seed(1)
np.random.seed(1)
torch.manual_seed(1)


def errors(found: torch.Tensor, truth: torch.Tensor) -> torch.Tensor:
    return ((found - truth) ** 2)[:, :, RIM:-RIM, RIM:-RIM].mean((1, 2, 3))


HELD = []
for case in ('clean', '75', '30'):
    shard = Shard(f'held-out-{KIND}-{case}', 96)
    HELD.append((case, batch(shard, np.arange(len(shard.facts)), 96)))


def held_out(model: Enlarger) -> list:
    model.eval()
    gains = []
    with torch.no_grad():
        for _, (planes, truth) in HELD:
            plain = bicubic(planes[:, :3])
            before, after = errors(plain.clamp(0, 1), truth), errors((plain + model(planes)).clamp(0, 1), truth)
            gains.append(float((10 * torch.log10(before / after)).mean()))
    model.train()
    return gains


model = Enlarger(blocks=int(os.environ.get('BLOCKS', '4')))
if START:
    model.begin_from(torch.load(START))
average = {name: value.clone() for name, value in model.state_dict().items()}
optimiser = torch.optim.Adam(model.parameters(), RATE, betas=(0.9, 0.99))
begun = time.time()
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
    found = bicubic(planes[:, :3]) + model(planes)
    # Mean of the decibels themselves, so that every pair counts alike, however much detail it has.
    value = torch.log(errors(found, truth) + FLOOR).mean()
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
        torch.save(average, os.path.join(DATA, f'enlarge-{KIND}.pt'))
        words = '  '.join(f'{case}: {gain:+.3f}' for (case, _), gain in zip(HELD, gains))
        print(f'{step} {(time.time() - begun) / 60:.1f} min  {words}', flush=True)
        model.load_state_dict(kept)
