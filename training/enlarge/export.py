"""A trained network to ONNX: python3 training/enlarge/export.py photo|art

Reads .data/enlarge-KIND.pt, writes ../../models/enlarge-KIND.onnx with weights as 32-bit floats.
"""
import hashlib
import os
import sys

import torch

from networks import DATA, HERE, PLANES, Enlarger

KIND = sys.argv[1]
MODELS = os.path.join(HERE, '..', '..', 'models')

weights = torch.load(os.path.join(DATA, f'enlarge-{KIND}.pt'))
model = Enlarger(blocks=sum(name.endswith('first.weight') for name in weights))
model.load_state_dict(weights)
model.eval()
path = os.path.join(MODELS, f'enlarge-{KIND}.onnx')
torch.onnx.export(
    model, torch.zeros(1, PLANES, 64, 64), path, opset_version=13,
    input_names=['planes'], output_names=['added'],
    dynamic_axes={'planes': {2: 'height', 3: 'width'}, 'added': {2: 'height', 3: 'width'}})
with open(path, 'rb') as file:
    digest = hashlib.sha256(file.read()).hexdigest()
print(f'{path}: {os.path.getsize(path) // 1024} KiB, SHA-256 {digest}')
