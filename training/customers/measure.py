"""Trains what measures the damage of a file from the traces that the core finds in it, and writes models/measure.onnx; and
what tells of what kind noise and sharpening were, models/noise-kind.onnx, which looks at some traces more.

    python3 training/customers/measure.py [STEPS]

Learns from .data/customers/train-*/, tests on held-out-*-*/ (damaged.py and traces.ts make both). The network gives
values, and half the logarithm of each's precision (Lakshminarayanan et al. 2017). Prints the mean errors beside those of
whoever always says the median, and how often the truth lies within two deviations.

Then it writes measured.f32 for the folders that restore.py learns from and is tested on: values and deviations of every
file, each by a network that has seen no other file of the same photograph, since of those it has seen it knows too well.
"""
import glob
import os
import sys

import numpy as np
import torch
import torch.nn as nn
import torch.nn.functional as F

from damage import KINDS, MEASURED, TRUE
from learning_loop import DATA
from learning import written

BATCH = 256
# Photographs in so many parts, each measured by what has learnt from the others.
PARTS = 4
# How many traces only the kinds are told by, the last ones; and of those before, how many are what the file says of its own
# compression, which not every file does.
TONES, OWN = 12, 3
# As far off as nobody needs to be surer of, and the most that half a logarithm of a precision is believed.
SURE, LIMIT = 0.03, 3.8


class Measures(nn.Sequential):
    def __init__(self, traces: int, values: int) -> None:
        super().__init__(nn.Linear(traces, 128), nn.LeakyReLU(0.1), nn.Linear(128, 64), nn.LeakyReLU(0.1),
                         nn.Linear(64, 2 * values))


def folders(pattern: str) -> list:
    return sorted(os.path.dirname(f) for f in glob.glob(os.path.join(DATA, 'customers', pattern, 'traces.f32')))


def read(folder: str, name: str, width: int, kind=np.float32) -> np.ndarray:
    return np.fromfile(os.path.join(folder, name), kind).reshape(-1, width)


def traces_of(folder: str) -> np.ndarray:
    count = os.path.getsize(os.path.join(folder, 'photograph.u8'))
    return np.fromfile(os.path.join(folder, 'traces.f32'), np.float32).reshape(count, -1)


def given_to(names: tuple, traces: np.ndarray) -> np.ndarray:
    return traces if names == KINDS else traces[:, :-TONES]


class Files:
    """Traces of all files of some folders, what is true of each, and which photograph it is of."""

    def __init__(self, some: list, names: tuple) -> None:
        order = [list(TRUE).index(name) for name in names]
        self.names = names
        self.traces = torch.from_numpy(np.concatenate([given_to(names, traces_of(f)) for f in some]))
        self.true = torch.from_numpy(np.concatenate([read(f, 'told.f32', len(TRUE))[:, order] for f in some]))
        self.photographs = np.concatenate([read(f, 'photograph.u8', 1, np.uint8)[:, 0] for f in some])


def told(outputs: torch.Tensor) -> tuple:
    """Values and deviations."""
    return outputs[:, 0::2], (torch.exp(-2 * outputs[:, 1::2].clamp(-LIMIT, LIMIT)) + SURE ** 2).sqrt()


def likelihood(outputs: torch.Tensor, true: torch.Tensor) -> torch.Tensor:
    """Of what is true; what isn't a number there is nothing to be measured of."""
    values, off = told(outputs)
    there = ~true.isnan()
    off = off[there]
    return (0.5 * ((values[there] - true[there]) / off) ** 2 + torch.log(off)).sum() / len(true)


def figures(outputs: torch.Tensor, files: Files) -> str:
    values, off = told(outputs)
    true = files.true
    words = []
    for i, name in enumerate(files.names):
        there = ~true[:, i].isnan()
        own = true[there, i]
        wrong = (least(values, files.names)[there, i] - own).abs()
        blind = (own - own.median()).abs().mean()
        within = (wrong < 2 * off[there, i]).float().mean()
        words.append(f'{name} {wrong.mean():.3f}/{blind:.3f} ({within:.2f})')
    return '  '.join(words)


def least(values: torch.Tensor, names: tuple) -> torch.Tensor:
    """Values where none can be less than nothing but how much stronger noise is in the darks."""
    return torch.where(torch.tensor([name == 'darks' for name in names]), values, values.clamp(min=0))


def fitted(files: Files, index: np.ndarray, steps: int) -> Measures:
    """A network that has learnt from some of the files."""
    torch.manual_seed(1)
    some = index[(~files.true[index].isnan()).any(1).numpy()]
    traces, true = files.traces[some], files.true[some]
    own = traces.shape[1] - OWN - (TONES if files.names == KINDS else 0)
    mean, deviation = traces.mean(0), traces.std(0) + 1e-3
    model = Measures(traces.shape[1], len(files.names))
    optimiser = torch.optim.AdamW(model.parameters(), 1e-3, weight_decay=0.05)
    for step in range(steps):
        for group in optimiser.param_groups:
            group['lr'] = 1e-3 * min(1, 0.02 + 1.5 * (1 - step / steps))
        some = torch.randint(0, len(traces), (BATCH,))
        given = (traces[some] - mean) / deviation
        given = F.dropout(given + 0.1 * torch.randn_like(given), 0.15)
        given[torch.rand(BATCH) < 0.4, own:own + OWN] = ((0 - mean) / deviation)[own:own + OWN]
        loss = likelihood(model(given), true[some])
        optimiser.zero_grad()
        loss.backward()
        optimiser.step()
    with torch.no_grad():
        # Traces come as they are: what makes them even is part of the first layer.
        first = model[0]
        first.bias -= first.weight @ (mean / deviation)
        first.weight /= deviation
    return model.eval()


def measured(model: Measures, traces: torch.Tensor) -> np.ndarray:
    with torch.no_grad():
        values, off = told(model(traces))
    return torch.stack([least(values, MEASURED), off], 1).numpy()


def main(steps: int) -> None:
    torch.set_num_threads(1)
    torch.set_flush_denormal(True)
    kinds, test_kinds = Files(folders('train-*'), KINDS), Files(folders('held-out-*-*'), KINDS)
    model = fitted(kinds, np.arange(len(kinds.traces)), steps)
    with torch.no_grad():
        print(f'kinds: {figures(model(test_kinds.traces), test_kinds)}', flush=True)
    written(model, torch.zeros(1, kinds.traces.shape[1]), 'noise-kind.onnx', ['traces'], ['measured'], {})
    files, test = Files(folders('train-*'), MEASURED), Files(folders('held-out-*-*'), MEASURED)
    model = fitted(files, np.arange(len(files.traces)), steps)
    with torch.no_grad():
        print('learnt from:', likelihood(model(files.traces), files.true).item())
        for name, known in (('by their own tables', True), ('unknown', False)):
            some = test.traces.clone()
            some[:, -OWN:] *= known
            found = model(some)
            print(f'{name}: {likelihood(found, test.true).item():.3f} {figures(found, test)}', flush=True)
    written(model, torch.zeros(1, files.traces.shape[1]), 'measure.onnx', ['traces'], ['measured'], {})
    for folder in folders('held-out-[!0-9]*'):
        if 'photograph.u8' in os.listdir(folder) and folder not in folders('held-out-*-*'):
            measured(model, torch.from_numpy(given_to(MEASURED, traces_of(folder)))).tofile(os.path.join(folder, 'measured.f32'))
    learnt_from = folders('[0-9]*')
    kept = {folder: np.zeros((len(traces_of(folder)), 2, len(MEASURED)), np.float32) for folder in learnt_from}
    for part in range(PARTS):
        model = fitted(files, np.flatnonzero(files.photographs % PARTS != part), steps)
        for folder in learnt_from:
            own = read(folder, 'photograph.u8', 1, np.uint8)[:, 0] % PARTS == part
            kept[folder][own] = measured(model, torch.from_numpy(given_to(MEASURED, traces_of(folder)[own])))
    for folder, values in kept.items():
        values.tofile(os.path.join(folder, 'measured.f32'))
        true = read(folder, 'told.f32', len(TRUE))[:, [list(TRUE).index(name) for name in MEASURED]]
        off = np.nanmean(np.abs(values[:, 0] - true), 0)
        print(folder, ' '.join(f'{name} {value:.3f}' for name, value in zip(MEASURED, off)), flush=True)


if __name__ == '__main__':
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 8000)
