"""Trains a photograph enlarger that is told what happened to a file.

    python3 training/customers/train.py NAME CHANNELS BLOCKS MINUTES [RATE]

Goes on from training/customers/NAME.pt, or from .data/NAME.pt where that is newer. Prints gains over bicubic
of the same file, in dB of R, G, B, on the six photographs that are held out, told the truth. kill -STOP and
-CONT pause it.
"""
import glob
import os
import random
import sys
import time

import numpy as np
import torch
from PIL import Image

sys.path.insert(1, os.path.join(os.path.dirname(os.path.abspath(__file__)), '..'))
sys.path.insert(1, os.path.join(os.path.dirname(os.path.abspath(__file__)), '..', 'enlarge'))
from damage import CASES, SPREAD, TOLD, as_measured, degraded, planes  # noqa: E402
from learning import DATA, FLOOR, Residual  # noqa: E402
from networks import FACTOR, RIM, bicubic, errors  # noqa: E402

NAME, CHANNELS, BLOCKS, MINUTES = sys.argv[1], int(sys.argv[2]), int(sys.argv[3]), float(sys.argv[4])
RATE = float(sys.argv[5]) if len(sys.argv) > 5 else 4e-4
BATCH, SIDE, MARGIN = 6, 40, 8
PHOTOGRAPHS = os.path.join(DATA, 'photographs')
OUT = os.path.join(DATA, f'{NAME}.pt')

torch.set_num_threads(1)
seed = int(time.time())
random.seed(seed)
torch.manual_seed(seed)
rng = np.random.default_rng(seed)

model = Residual(3 + len(TOLD), channels=CHANNELS, blocks=BLOCKS, unshuffle=1, shuffle=FACTOR)
kept = [p for p in (os.path.join(os.path.dirname(os.path.abspath(__file__)), f'{NAME}.pt'), OUT) if os.path.exists(p)]
if kept:
    model.load_state_dict(torch.load(max(kept, key=os.path.getmtime)))
    print('goes on from', max(kept, key=os.path.getmtime), flush=True)


def pictures(part: str) -> list:
    found = [Image.open(f).convert('RGB') for f in sorted(glob.glob(os.path.join(PHOTOGRAPHS, part, '*.png')))]
    return [p for p in found if min(p.size) >= 320]


TRAIN = pictures('train')
AREAS = [p.width * p.height for p in TRAIN]


def pair() -> tuple:
    picture = random.choices(TRAIN, AREAS)[0]
    side = (SIDE + MARGIN) * FACTOR
    x, y = random.randint(0, picture.width - side), random.randint(0, picture.height - side)
    large = picture.crop((x, y, x + side, y + side))
    for turn in (Image.FLIP_LEFT_RIGHT, Image.FLIP_TOP_BOTTOM, Image.TRANSPOSE):
        if random.random() < 0.5:
            large = large.transpose(turn)
    small, true = degraded(large, SIDE + MARGIN, rng)
    x, y = random.randint(0, MARGIN), random.randint(0, MARGIN)  # the JPEG grid may begin anywhere
    small = planes(small.crop((x, y, x + SIDE, y + SIDE)))
    large = planes(large.crop((x * FACTOR, y * FACTOR, (x + SIDE) * FACTOR, (y + SIDE) * FACTOR)))
    if random.random() < 0.3:
        order = torch.randperm(3)
        small, large = small[order], large[order]
    return small, large, torch.tensor(as_measured(true))


def enlarged(small: torch.Tensor, told: torch.Tensor) -> torch.Tensor:
    flat = told[:, :, None, None].expand(-1, -1, *small.shape[2:])
    return bicubic(small) + model(torch.cat([small, flat], 1))


def held_out() -> dict:
    """Middles of the held-out photographs, by case: small ones, what is told, large ones."""
    still = np.random.default_rng(7)
    cases: dict = {}
    for name, (damage, true) in CASES.items():
        told = torch.tensor([*(float(true.get(one, 0)) for one in SPREAD), 0.0])
        cases[name] = []
        for picture in pictures('held-out'):
            x, y = (picture.width - 480) // 2, max(0, (picture.height - 320) // 2)
            large = picture.crop((x, y, x + 480, y + 320))
            small = damage(large.resize((120, 80), Image.BICUBIC), still)
            cases[name].append((planes(small)[None], told[None], planes(large)[None]))
    return cases


HELD = held_out()


def figures() -> str:
    words = []
    for name, sets in HELD.items():
        gains = [10 * torch.log10(errors(bicubic(small), large) / errors(enlarged(small, told).clamp(0, 1), large))
                 for small, told, large in sets]
        words.append(f'{name} {torch.cat(gains).mean().item():+.2f}')
    return '  '.join(words)


average = {key: value.clone() for key, value in model.state_dict().items()}
optimiser = torch.optim.Adam(model.parameters(), RATE, betas=(0.9, 0.99))
begun = time.time()
step = 0
while (passed := (time.time() - begun) / 60 / MINUTES) < 1:
    # Even for most of the time, so that a later session goes on; quieter at the end.
    for group in optimiser.param_groups:
        group['lr'] = RATE * min(1, (step + 1) / 200) * min(1, 0.05 + (1 - passed) / 0.25)
    small, large, told = (torch.stack(part) for part in zip(*[pair() for _ in range(BATCH)]))
    value = torch.log(errors(enlarged(small, told), large) + FLOOR).mean()
    optimiser.zero_grad()
    value.backward()
    torch.nn.utils.clip_grad_norm_(model.parameters(), 1.0)
    optimiser.step()
    step += 1
    with torch.no_grad():
        for key, weights in model.state_dict().items():
            average[key].mul_(0.998).add_(weights, alpha=0.002)
    if step % 500 == 0:
        present = {key: weights.clone() for key, weights in model.state_dict().items()}
        model.load_state_dict(average)
        with torch.no_grad():
            words = figures()
        torch.save(average, OUT)
        model.load_state_dict(present)
        print(f'{step} {(time.time() - begun) / 60:.1f} min  {words}', flush=True)
