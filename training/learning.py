"""What all trainings share: the network's form, its training from pairs, and its file."""
import hashlib
import math
import os
import random
import time
from typing import Callable

import numpy as np
import torch
import torch.nn as nn
import torch.nn.functional as F

HERE = os.path.dirname(os.path.abspath(__file__))
DATA = os.path.join(HERE, '.data')
PAIRS = os.path.join(DATA, 'pairs')
MODELS = os.path.join(HERE, '..', 'models')
# A third of a level: errors below it are not worth more effort.
FLOOR = (0.33 / 255) ** 2


class Block(nn.Module):
    def __init__(self, channels: int) -> None:
        super().__init__()
        self.first = nn.Conv2d(channels, channels, 3, padding=1)
        self.second = nn.Conv2d(channels, channels, 3, padding=1)

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        return x + self.second(F.leaky_relu(self.first(x), 0.1))


class Residual(nn.Module):
    """Blocks between two convolutions, as the core's `residualNetwork` computes them; adds nothing at first.

    Squares of `unshuffle` pixels a side are one place, and each place becomes a square of `shuffle`.
    """

    def __init__(self, planes: int, channels: int, blocks: int, unshuffle: int, shuffle: int) -> None:
        super().__init__()
        self.down = nn.PixelUnshuffle(unshuffle)
        self.head = nn.Conv2d(planes * unshuffle ** 2, channels, 3, padding=1)
        self.body = nn.Sequential(*[Block(channels) for _ in range(blocks)])
        self.tail = nn.Conv2d(channels, 3 * shuffle ** 2, 3, padding=1)
        self.up = nn.PixelShuffle(shuffle)
        nn.init.zeros_(self.tail.weight)
        nn.init.zeros_(self.tail.bias)

    def begin_from(self, weights: dict) -> None:
        """Takes over a network of fewer blocks; those that are new change nothing at first."""
        missing = self.load_state_dict(weights, strict=False).missing_keys
        for name, value in self.named_parameters():
            if name in missing and '.second.' in name:
                nn.init.zeros_(value)

    def forward(self, planes: torch.Tensor) -> torch.Tensor:
        features = F.leaky_relu(self.head(self.down(planes)), 0.1)
        return self.up(self.tail(features + self.body(features)))


def blocks_in(weights: dict) -> int:
    return sum(name.endswith('first.weight') for name in weights)


def keeping(weights: dict, blocks: list) -> dict:
    """The same network with some of its blocks alone."""
    kept = {}
    for name, value in weights.items():
        part = name.split('.')
        if part[0] == 'body':
            if int(part[1]) not in blocks:
                continue
            part[1] = str(blocks.index(int(part[1])))
        kept['.'.join(part)] = value
    return kept


def tensor(values: np.ndarray, scale: float) -> torch.Tensor:
    return torch.from_numpy(np.ascontiguousarray(values.transpose(0, 3, 1, 2)).astype(np.float32)) / scale


def learn(
    name: str,
    model: Residual,
    minutes: float,
    rate: float,
    pools: Callable[[], list],
    loss: Callable,
    figures: Callable[[], str],
) -> None:
    """Trains for some minutes and writes .data/NAME.pt, an average of the last weights, as it goes.

    `pools` gives the shards there are, `loss` takes one of them, `figures` tells in words how the model
    does on what is held out. They choose nothing.
    """
    torch.set_num_threads(int(os.environ.get('THREADS', '1')))
    random.seed(1)
    np.random.seed(1)
    torch.manual_seed(1)
    average = {key: value.clone() for key, value in model.state_dict().items()}
    optimiser = torch.optim.Adam(model.parameters(), rate, betas=(0.9, 0.99))
    begun = looked = time.time()
    shards = pools()
    step = 0
    while True:
        passed = (time.time() - begun) / 60 / minutes
        if passed >= 1:
            break
        if time.time() - looked > 120:  # more pairs may have been written meanwhile
            shards, looked = pools(), time.time()
        for group in optimiser.param_groups:
            group['lr'] = rate * max(0.01, min(1, step / 200) * 0.5 * (1 + math.cos(math.pi * passed)))
        value = loss(random.choices(shards, [len(shard.facts) for shard in shards])[0])
        optimiser.zero_grad()
        value.backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        optimiser.step()
        step += 1
        with torch.no_grad():
            for key, weights in model.state_dict().items():
                average[key].mul_(0.998).add_(weights, alpha=0.002)
        if step % 400 == 0:
            kept = {key: weights.clone() for key, weights in model.state_dict().items()}
            model.load_state_dict(average)
            model.eval()
            with torch.no_grad():
                words = figures()
            model.train()
            torch.save(average, os.path.join(DATA, f'{name}.pt'))
            print(f'{step} {(time.time() - begun) / 60:.1f} min  {words}', flush=True)
            model.load_state_dict(kept)


def trained(name: str) -> dict:
    return torch.load(os.path.join(DATA, f'{name}.pt'))


def weights_in(file: str) -> dict:
    """Weights of a model that was exported, to go on from (needs Debian's python3-onnx)."""
    import onnx
    from onnx import numpy_helper
    graph = onnx.load(file).graph
    return {one.name: torch.from_numpy(numpy_helper.to_array(one).copy()) for one in graph.initializer}


def export(model: Residual, weights: dict, planes: int, file: str) -> None:
    """Writes ../models/FILE with weights as 32-bit floats."""
    model.load_state_dict(weights)
    written(model, torch.zeros(1, planes, 64, 64), file, ['planes'], ['added'],
            {'planes': {2: 'height', 3: 'width'}, 'added': {2: 'height', 3: 'width'}})


def written(model: nn.Module, example: torch.Tensor, file: str, inputs: list, outputs: list, axes: dict) -> None:
    """Writes ../models/FILE, and says its digest."""
    model.eval()
    path = os.path.join(MODELS, file)
    torch.onnx.export(model, example, path, opset_version=13, input_names=inputs, output_names=outputs, dynamic_axes=axes)
    with open(path, 'rb') as one:
        digest = hashlib.sha256(one.read()).hexdigest()
    print(f'{path}: {os.path.getsize(path) // 1024} KiB, SHA-256 {digest}')
