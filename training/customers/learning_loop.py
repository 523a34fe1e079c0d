"""What the trainings of this folder share: photographs, patches of them, and the loop."""
import glob
import os
import random
import sys
import time
from typing import Callable

import numpy as np
import torch
from PIL import Image

HERE = os.path.dirname(os.path.abspath(__file__))
sys.path.insert(1, os.path.join(HERE, '..'))
from learning import DATA  # noqa: E402

PHOTOGRAPHS = os.path.join(DATA, 'photographs')


def pictures_of(part: str) -> list:
    found = [Image.open(f).convert('RGB') for f in sorted(glob.glob(os.path.join(PHOTOGRAPHS, part, '*.png')))]
    return [p for p in found if min(p.size) >= 320]


class Patches:
    """Square patches of pictures, each as likely as its sides are long, turned and mirrored at random."""

    def __init__(self, part: str) -> None:
        self.pictures = pictures_of(part)
        self.likely = [(p.width * p.height) ** 0.5 for p in self.pictures]

    def one(self, side_of: Callable) -> Image.Image:
        return self.any(side_of)[0]

    def any(self, side_of: Callable) -> tuple:
        """A patch, and the number of the picture that it is of."""
        number = random.choices(range(len(self.pictures)), self.likely)[0]
        picture = self.pictures[number]
        side = side_of(min(picture.size))
        x, y = random.randint(0, picture.width - side), random.randint(0, picture.height - side)
        patch = picture.crop((x, y, x + side, y + side))
        for turn in (Image.FLIP_LEFT_RIGHT, Image.FLIP_TOP_BOTTOM, Image.TRANSPOSE):
            if random.random() < 0.5:
                patch = patch.transpose(turn)
        return patch, number


def newest(name: str) -> str | None:
    """Where a model's last weights lie: NAME.pt in .data, or in this folder where that is newer."""
    kept = [p for p in (os.path.join(folder, f'{name}.pt') for folder in (HERE, DATA)) if os.path.exists(p)]
    return max(kept, key=os.path.getmtime, default=None)


def train(
    name: str,
    model: torch.nn.Module,
    minutes: float,
    rate: float,
    loss: Callable,
    figures: Callable[[], str],
) -> None:
    """Goes on from .data/NAME.pt, or from NAME.pt of this folder where that is newer, and writes the former: an average
    of the last weights. `loss` draws its own pairs; `figures` tells in words how the model does on what is held out."""
    torch.set_num_threads(1)
    out = os.path.join(DATA, f'{name}.pt')
    if kept := newest(name):
        model.load_state_dict(torch.load(kept))
        print('goes on from', kept, flush=True)
    seed = int(time.time())
    random.seed(seed)
    torch.manual_seed(seed)
    rng = np.random.default_rng(seed)
    average = {key: value.clone() for key, value in model.state_dict().items()}
    optimiser = torch.optim.Adam(model.parameters(), rate, betas=(0.9, 0.99))
    begun = looked = time.time()
    step = 0
    while (passed := (time.time() - begun) / 60 / minutes) < 1:
        # Even for most of the time, so that a later session goes on; quieter at the end.
        for group in optimiser.param_groups:
            group['lr'] = rate * min(1, (step + 1) / 200) * min(1, 0.05 + (1 - passed) / 0.3)
        value = loss(rng)
        optimiser.zero_grad()
        value.backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        optimiser.step()
        step += 1
        with torch.no_grad():
            for key, weights in model.state_dict().items():
                average[key].mul_(0.998).add_(weights, alpha=0.002)
        if time.time() - looked > 240 or passed > 0.995:
            looked = time.time()
            present = {key: weights.clone() for key, weights in model.state_dict().items()}
            model.load_state_dict(average)
            with torch.no_grad():
                words = figures()
            torch.save(average, out)
            model.load_state_dict(present)
            print(f'{step} {(time.time() - begun) / 60:.1f} min  {words}', flush=True)
