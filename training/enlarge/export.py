"""A trained enlarger to ONNX: python3 training/enlarge/export.py photo|art [BLOCKS]

BLOCKS such as 0,1,2,3,4,6 are kept, the others left out; all of them unless said.
"""
import sys

from networks import PLANES, enlarger
from learning import blocks_in, export, keeping, trained

NAME = f'enlarge-{sys.argv[1]}'
weights = trained(NAME)
if len(sys.argv) > 2:
    weights = keeping(weights, [int(block) for block in sys.argv[2].split(',')])
export(enlarger(blocks_in(weights)), weights, PLANES, f'{NAME}.onnx')
