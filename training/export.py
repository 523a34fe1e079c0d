"""A trained network to ONNX, checked against itself: python3 training/export.py compression|noise

Reads .data/KIND.pt, writes ../models/clean-KIND.onnx with weights as 32-bit floats.
"""
import hashlib
import os
import sys

import torch

from networks import HERE, PLANES, Cleaner

KIND = sys.argv[1]
MODELS = os.path.join(HERE, '..', 'models')

model = Cleaner()
model.load_state_dict(torch.load(os.path.join(HERE, '.data', f'{KIND}.pt')))
model.eval()
os.makedirs(MODELS, exist_ok=True)
path = os.path.join(MODELS, f'clean-{KIND}.onnx')
torch.onnx.export(
    model, torch.zeros(1, PLANES, 64, 64), path, opset_version=13,
    input_names=['planes'], output_names=['added'],
    dynamic_axes={'planes': {2: 'height', 3: 'width'}, 'added': {2: 'height', 3: 'width'}})
with open(path, 'rb') as file:
    digest = hashlib.sha256(file.read()).hexdigest()
print(f'{path}: {os.path.getsize(path) // 1024} KiB, SHA-256 {digest}')
