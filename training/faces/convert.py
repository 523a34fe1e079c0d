"""The face detector of an npm package, whose weights are whole numbers of eight bits, as ONNX: python3 training/faces/convert.py

Its layers: a convolution of 3 x 3, five that look at each channel by itself and then mix channels, halved after each of the
first five, and one that answers for five shapes at every place: where a face lies in it, how large it is, and how likely.
"""
import hashlib
import json
import os
import subprocess
import tarfile
import tempfile

import numpy as np
import onnx
from onnx import TensorProto, helper, numpy_helper

PACKAGE = '@vladmandic/face-api@1.7.15'
NAME = 'tiny_face_detector_model'
MODELS = os.path.join(os.path.dirname(os.path.abspath(__file__)), '..', '..', 'models')


def weights() -> dict[str, np.ndarray]:
    """All weights of the package's detector by name, in floats; convolutions as [output][input][y][x]."""
    with tempfile.TemporaryDirectory() as folder:
        packed = subprocess.run(['npm', 'pack', PACKAGE], cwd=folder, check=True, capture_output=True, text=True)
        with tarfile.open(os.path.join(folder, packed.stdout.split()[-1])) as archive:
            read = lambda name: archive.extractfile(f'package/model/{NAME}{name}').read()
            listed = json.loads(read('-weights_manifest.json'))[0]['weights']
            data = read('.bin')
    found, at = {}, 0
    for one in listed:
        count = int(np.prod(one['shape']))
        by = one['quantization']
        values = np.frombuffer(data, np.uint8, count, at).astype(np.float32) * np.float32(by['scale'])
        found[one['name']] = (values + np.float32(by['min'])).reshape(one['shape'])
        at += count
    assert at == len(data)
    return found


def main() -> None:
    named = weights()
    nodes, tensors = [], []
    last = 'picture'

    def constant(name: str, values: np.ndarray) -> str:
        tensors.append(numpy_helper.from_array(np.ascontiguousarray(values, np.float32), name))
        return name

    def convolve(name: str, filters: np.ndarray, bias: np.ndarray, **how) -> None:
        nonlocal last
        inputs = [last, constant(f'{name}/weights', filters), constant(f'{name}/biases', bias)]
        nodes.append(helper.make_node('Conv', inputs, [name], **how))
        last = name

    def follow(operation: str, name: str, **how) -> None:
        nonlocal last
        nodes.append(helper.make_node(operation, [last], [name], **how))
        last = name

    about = {'pads': [1, 1, 1, 1]}
    convolve('mix0', named['conv0/filters'].transpose(3, 2, 0, 1), named['conv0/bias'], **about)
    for layer in range(1, 6):
        follow('LeakyRelu', f'bent{layer - 1}', alpha=0.1)
        follow('MaxPool', f'halved{layer - 1}', kernel_shape=[2, 2], strides=[2, 2])
        each = named[f'conv{layer}/depthwise_filter'].transpose(2, 3, 0, 1)
        convolve(f'each{layer}', each, np.zeros(len(each)), group=len(each), **about)
        convolve(f'mix{layer}', named[f'conv{layer}/pointwise_filter'].transpose(3, 2, 0, 1), named[f'conv{layer}/bias'])
    follow('LeakyRelu', 'bent5', alpha=0.1)
    follow('MaxPool', 'widened5', kernel_shape=[2, 2], strides=[1, 1], pads=[0, 0, 1, 1])
    convolve('faces', named['conv8/filters'].transpose(3, 2, 0, 1), named['conv8/bias'])

    planes = lambda name, channels: helper.make_tensor_value_info(name, TensorProto.FLOAT, [1, channels, None, None])
    graph = helper.make_graph(nodes, 'faces', [planes('picture', 3)], [planes('faces', 25)], tensors)
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid('', 13)], producer_name='lontano')
    model.ir_version = 8
    onnx.checker.check_model(model)
    data = model.SerializeToString()
    with open(os.path.join(MODELS, 'faces.onnx'), 'wb') as file:
        file.write(data)
    print(hashlib.sha256(data).hexdigest(), len(data))


main()
