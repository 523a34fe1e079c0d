"""A trained enlarger to ONNX: python3 training/enlarge/export.py photo|art"""
import os
import sys

import torch

from networks import PLANES, enlarger
from learning import DATA, blocks_in, export

NAME = f'enlarge-{sys.argv[1]}'
weights = torch.load(os.path.join(DATA, f'{NAME}.pt'))
export(NAME, enlarger(blocks_in(weights)), PLANES, f'{NAME}.onnx')
