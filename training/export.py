"""A trained cleaner to ONNX: python3 training/export.py compression|noise"""
import sys

from learning import export, trained
from networks import PLANES, cleaner

KIND = sys.argv[1]
export(cleaner(), trained(KIND), PLANES, f'clean-{KIND}.onnx')
