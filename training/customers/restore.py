"""Trains what takes a file's damage away before it is enlarged, told what it was.

    python3 training/customers/restore.py MINUTES [RATE]

Prints gains over bicubic of the same file at x4, in dB of R, G, B, on the six photographs that are held out, told
the truth and enlarged by the photograph network that ships (needs Debian's python3-onnx). kill -STOP and -CONT
pause it.
"""
import os
import random
import sys

import numpy as np
import torch
from PIL import Image

from learning_loop import Patches, pictures_of, train
from damage import CASES, SPREAD, TOLD, as_measured, degraded, planes
from learning import FLOOR, HERE as TRAINING, MODELS, Residual, blocks_in, weights_in

sys.path.insert(1, os.path.join(TRAINING, 'enlarge'))
from networks import FACTOR, PLANES, bicubic, errors  # noqa: E402

BATCH, SIDE, MARGIN, RIM = 8, 64, 8, 4


def restorer() -> Residual:
    return Residual(3 + len(TOLD), channels=32, blocks=10, unshuffle=2, shuffle=2)


def restored(model: Residual, small: torch.Tensor, told: torch.Tensor) -> torch.Tensor:
    flat = told[:, :, None, None].expand(-1, -1, *small.shape[2:])
    return small + model(torch.cat([small, flat], 1))


def pair(patches: Patches, rng: np.random.Generator) -> tuple:
    size = SIDE + MARGIN
    large = patches.one(lambda least: int(size * random.uniform(1.6, min(4, (least - 1) / size))))
    small, true = degraded(large, size, rng)
    perfect = large.resize((size, size), Image.BICUBIC)
    x, y = random.randint(0, MARGIN), random.randint(0, MARGIN)  # the JPEG grid may begin anywhere
    small, perfect = (planes(one.crop((x, y, x + SIDE, y + SIDE))) for one in (small, perfect))
    if random.random() < 0.3:
        order = torch.randperm(3)
        small, perfect = small[order], perfect[order]
    return small, perfect, torch.tensor(as_measured(true))


def inner(x: torch.Tensor) -> torch.Tensor:
    """Zeros beyond a patch's border are not what a picture has there."""
    return x[:, :, RIM:-RIM, RIM:-RIM]


if __name__ == '__main__':
    patches = Patches('train')
    model = restorer()
    shipped = dict(weights_in(os.path.join(MODELS, 'enlarge-photo.onnx')))
    enlarger = Residual(PLANES, channels=32, blocks=blocks_in(shipped), unshuffle=1, shuffle=FACTOR)
    enlarger.load_state_dict(shipped)

    def enlarged(small: torch.Tensor) -> torch.Tensor:
        none = torch.zeros(small.shape[0], 2, *small.shape[2:])
        return (bicubic(small) + enlarger(torch.cat([small, none], 1))).clamp(0, 1)

    still = np.random.default_rng(7)
    HELD: dict = {}
    for name, (damage, true) in CASES.items():
        told = torch.tensor([[*(float(true.get(one, 0)) for one in SPREAD), 0.0]])
        HELD[name] = []
        for picture in pictures_of('held-out'):
            x, y = (picture.width - 480) // 2, max(0, (picture.height - 320) // 2)
            large = picture.crop((x, y, x + 480, y + 320))
            small = damage(large.resize((120, 80), Image.BICUBIC), still)
            HELD[name].append((planes(small)[None], told, planes(large)[None]))

    def figures() -> str:
        words = []
        for name, sets in HELD.items():
            gains = [10 * torch.log10(errors(bicubic(small), large) / errors(enlarged(restored(model, small, told).clamp(0, 1)), large))
                     for small, told, large in sets]
            words.append(f'{name} {torch.cat(gains).mean().item():+.2f}')
        return '  '.join(words)

    def loss(rng: np.random.Generator) -> torch.Tensor:
        small, perfect, told = (torch.stack(part) for part in zip(*[pair(patches, rng) for _ in range(BATCH)]))
        off = ((inner(restored(model, small, told)) - inner(perfect)) ** 2).mean((1, 2, 3))
        return torch.log(off + FLOOR).mean()

    train('restore', model, float(sys.argv[1]), float(sys.argv[2]) if len(sys.argv) > 2 else 1e-3, loss, figures)
