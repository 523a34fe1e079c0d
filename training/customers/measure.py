"""Trains what measures how a file was damaged before it came.

    python3 training/customers/measure.py MINUTES [RATE]

The network gives, for every place of two by two pixels, six values and how much each counts; a picture's are their
weighted means. The weights are trained as precisions (Lakshminarayanan et al. 2017). Prints the mean errors on the
photographs that are held out, beside those of whoever always says the mean, and how often the truth lies within two
deviations. kill -STOP and -CONT pause it.
"""
import random
import sys

import numpy as np
import torch

from learning_loop import Patches, train
from damage import MEASURED, degraded, known_of, planes
from learning import Residual

BATCH, SIDE, MARGIN = 12, 96, 8
# Beside R, G, B: whether the file says how it was compressed, how much, and whether its colour was halved.
KNOWN = 3
# As far off as nobody needs to be surer of.
SURE = 0.03


def measurer() -> Residual:
    """Its twelve planes a place are six values and the logarithms of what they count."""
    return Residual(3 + KNOWN, channels=32, blocks=4, unshuffle=2, shuffle=2)


def measured(model: Residual, pictures: torch.Tensor, known: torch.Tensor) -> tuple:
    """Values of whole pictures, and their precisions."""
    flat = known[:, :, None, None].expand(-1, -1, *pictures.shape[2:])
    maps = model.down(model(torch.cat([pictures, flat], 1)))
    values, weights = maps[:, 0::2], torch.exp(maps[:, 1::2].clamp(-8, 7))
    together = weights.mean((2, 3))
    return (values * weights).mean((2, 3)) / together, together


def one(patches: Patches, rng: np.random.Generator) -> tuple:
    size = SIDE + MARGIN
    large = patches.one(lambda least: int(size * random.uniform(1.6, min(4, (least - 1) / size))))
    small, true = degraded(large, size, rng)
    x, y = random.randint(0, MARGIN), random.randint(0, MARGIN)  # the JPEG grid may begin anywhere
    small = planes(small.crop((x, y, x + SIDE, y + SIDE)))
    if random.random() < 0.3:
        small = small[torch.randperm(3)]
    return small, known_of(true, random.random() < 0.6), torch.tensor([true[name] for name in MEASURED])


def batch(patches: Patches, rng: np.random.Generator, count: int = BATCH) -> list:
    return [torch.stack(part) for part in zip(*[one(patches, rng) for _ in range(count)])]


def likelihood(found: torch.Tensor, weights: torch.Tensor, true: torch.Tensor) -> torch.Tensor:
    spread = 1 / weights + SURE ** 2
    return (0.5 * (found - true) ** 2 / spread + 0.5 * torch.log(spread)).mean()


if __name__ == '__main__':
    random.seed(7)
    held = Patches('held-out')
    held.areas = [1] * len(held.pictures)
    TEST = [batch(held, np.random.default_rng(7 + i), 24) for i in range(10)]
    patches = Patches('train')
    model = measurer()

    def figures() -> str:
        found, true, sure = [], [], []
        for small, known, truth in TEST:
            values, weights = measured(model, small, known)
            found.append(values)
            true.append(truth)
            sure.append((1 / weights + SURE ** 2).sqrt())
        found, true, sure = torch.cat(found), torch.cat(true), torch.cat(sure)
        off = (found - true).abs()
        blind = (true - true.mean(0)).abs().mean(0)
        within = (off < 2 * sure).float().mean(0)
        return '  '.join(f'{name} {off[:, i].mean():.3f}/{blind[i]:.3f} ({within[i]:.2f})' for i, name in enumerate(MEASURED))

    def loss(rng: np.random.Generator) -> torch.Tensor:
        small, known, true = batch(patches, rng)
        return likelihood(*measured(model, small, known), true)

    train('measure', model, float(sys.argv[1]), float(sys.argv[2]) if len(sys.argv) > 2 else 1e-3, loss, figures)
