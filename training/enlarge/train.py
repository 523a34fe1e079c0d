"""Trains an enlarger: python3 training/enlarge/train.py photo|art MINUTES [START]

START is a checkpoint or a model of this form; it may have fewer blocks than BLOCKS in the environment (4 if unset); RATE is the first step size.
Prints figures of what is held out as it goes: gain over bicubic in dB of R, G, B.
"""
import os
import sys

import torch

from networks import Shard, augmented, bicubic, enlarger, errors, held_out, shards
from learning import FLOOR, learn, weights_in

KIND, MINUTES = sys.argv[1], float(sys.argv[2])
START = sys.argv[3] if len(sys.argv) > 3 else None
BATCH, SIDE, RATE = 8, 40, float(os.environ.get('RATE', '8e-4'))

model = enlarger(int(os.environ.get('BLOCKS', '4')))
if START:
    model.begin_from(weights_in(START) if START.endswith('.onnx') else torch.load(START))


def loss(pool: Shard) -> torch.Tensor:
    """Mean of the decibels themselves, so that every pair counts alike, however much detail it has."""
    planes, truth = augmented(pool, BATCH, SIDE)
    return torch.log(errors(bicubic(planes[:, :3]) + model(planes), truth) + FLOOR).mean()


HELD = held_out(KIND)


def figures() -> str:
    words = []
    for case, (planes, truth) in HELD:
        plain = bicubic(planes[:, :3])
        before, after = errors(plain.clamp(0, 1), truth), errors((plain + model(planes)).clamp(0, 1), truth)
        words.append(f'{case}: {float((10 * torch.log10(before / after)).mean()):+.3f}')
    return '  '.join(words)


learn(f'enlarge-{KIND}', model, MINUTES, RATE, lambda: shards(KIND), loss, figures)
