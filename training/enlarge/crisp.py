"""Trains an enlarger on for crispness: python3 training/enlarge/crisp.py MINUTES [WEIGHT]

It begins as the photograph model and learns against a second network that tells photographs from
enlargements, patch by patch (relativistic average discriminator, Jolicoeur-Martineau 2018; patches as
in Isola et al. 2017). WEIGHT is what fooling it counts for beside the error itself.
"""
import copy
import os
import random
import sys
import time

import numpy as np
import torch
import torch.nn as nn
import torch.nn.functional as F

from networks import RIM, augmented, bicubic, enlarger, errors, held_out, shards
from learning import DATA, MODELS, blocks_in, weights_in

MINUTES = float(sys.argv[1])
WEIGHT = float(sys.argv[2]) if len(sys.argv) > 2 else 0.01
BATCH, SIDE, RATE = 6, 32, 3e-4
# Minutes in which the discriminator learns alone, so that its first word is worth something.
ALONE = 2

torch.set_num_threads(int(os.environ.get('THREADS', '1')))
random.seed(2)
np.random.seed(2)
torch.manual_seed(2)


def judge() -> nn.Sequential:
    """How much a patch looks like a photograph, given what it is an enlargement of."""
    def layer(of: int, to: int, stride: int) -> list:
        return [nn.Conv2d(of, to, 4 if stride > 1 else 3, stride, 1), nn.LeakyReLU(0.2)]
    return nn.Sequential(
        nn.PixelUnshuffle(2), *layer(24, 32, 1), *layer(32, 48, 2), *layer(48, 64, 1), *layer(64, 64, 1),
        nn.Conv2d(64, 1, 3, padding=1))


weights = weights_in(os.path.join(MODELS, 'enlarge-photo.onnx'))
model = enlarger(blocks_in(weights))
model.load_state_dict(weights)
if os.environ.get('GO_ON'):
    model.load_state_dict(torch.load(os.environ['GO_ON']))
average = copy.deepcopy(model.state_dict())
critic = judge()
making = torch.optim.Adam(model.parameters(), RATE, betas=(0.9, 0.99))
telling = torch.optim.Adam(critic.parameters(), RATE, betas=(0.9, 0.99))
pools = shards('photo')
HELD = held_out('photo')


def seen(picture: torch.Tensor, given: torch.Tensor) -> torch.Tensor:
    """What the judge looks at: what was added, made large, and what it was added to."""
    return torch.cat([10 * (picture - given), given - 0.5], 1)


def inner(picture: torch.Tensor) -> torch.Tensor:
    return picture[:, :, RIM:-RIM, RIM:-RIM]


def detail(picture: torch.Tensor) -> torch.Tensor:
    """Differences across and down: what crispness is made of."""
    return torch.cat([(picture[:, :, 1:, 1:] - picture[:, :, :-1, 1:]), (picture[:, :, 1:, 1:] - picture[:, :, 1:, :-1])], 1)


def figures() -> str:
    kept = copy.deepcopy(model.state_dict())
    model.load_state_dict(average)
    words = []
    with torch.no_grad():
        for case, (planes, truth) in HELD:
            plain = bicubic(planes[:, :3])
            found = (plain + model(planes)).clamp(0, 1)
            gain = (10 * torch.log10(errors(plain.clamp(0, 1), truth) / errors(found, truth))).mean()
            energy = detail(inner(found)).abs().mean() / detail(inner(truth)).abs().mean()
            words.append(f'{case}: {float(gain):+.3f} dB, detail {float(energy):.3f}')
    model.load_state_dict(kept)
    return '  '.join(words)


begun = time.time()
step = 0
sums = np.zeros(3)
while True:
    passed = (time.time() - begun) / 60 / MINUTES
    if passed >= 1:
        break
    for optimiser, rate in ((making, RATE), (telling, RATE)):
        for group in optimiser.param_groups:
            group['lr'] = rate * (1 if passed < 0.6 else max(0.02, (1 - passed) / 0.4))
    pool = random.choices(pools, [len(shard.facts) for shard in pools])[0]
    planes, truth = augmented(pool, BATCH, SIDE)
    plain = bicubic(planes[:, :3])
    found = plain + model(planes)
    given, true, made = inner(plain), inner(truth), inner(found)

    real = critic(seen(true, given))
    fake = critic(seen(made.detach(), given))
    told = ((real - fake.mean() - 1) ** 2).mean() + ((fake - real.mean() + 1) ** 2).mean()
    telling.zero_grad()
    told.backward()
    telling.step()

    if (time.time() - begun) / 60 > min(ALONE, MINUTES / 10):
        with torch.no_grad():
            real = critic(seen(true, given))
        fake = critic(seen(made, given))
        fooled = ((real - fake.mean() + 1) ** 2).mean() + ((fake - real.mean() - 1) ** 2).mean()
        off = F.l1_loss(made, true)
        making.zero_grad()
        (off + WEIGHT * fooled).backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        making.step()
        sums += [float(off), float(fooled), float(told)]
        with torch.no_grad():
            for key, value in model.state_dict().items():
                average[key].mul_(0.998).add_(value, alpha=0.002)
    step += 1
    if step % 300 == 0:
        off, fooled, told = sums / 300
        sums[:] = 0
        torch.save(average, os.path.join(DATA, 'enlarge-crisp.pt'))
        print(f'{step} {(time.time() - begun) / 60:.1f} min  off {255 * off:.2f}, fooled {fooled:.2f}, told {told:.2f}  {figures()}', flush=True)
