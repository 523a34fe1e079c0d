"""Files as customers send them, and what they were:

    python3 training/customers/damaged.py COUNT SEED [SIDE [held-out]]
                                                         at random, of the photographs that are learnt from, or of those held out
    python3 training/customers/damaged.py held-out       in fixed ways, of those that are held out

Writes .data/customers/NAME/ : N.jpg or N.png, and for all of them perfect.u8, told.f32, and photograph.u8: the number of
the photograph that it was made of.
"""
import os
import random
import sys

import numpy as np
from PIL import Image

from learning_loop import Patches, pictures_of
from damage import CASES, NONE, TRUE, before_saving
from learning import DATA

SIDE, HELD_SIDE = 112, 160


class Folder:
    def __init__(self, name: str) -> None:
        self.path = os.path.join(DATA, 'customers', name)
        os.makedirs(self.path, exist_ok=True)
        self.perfect = open(os.path.join(self.path, 'perfect.u8'), 'wb')
        self.told = open(os.path.join(self.path, 'told.f32'), 'wb')
        self.photographs = open(os.path.join(self.path, 'photograph.u8'), 'wb')
        self.count = 0

    def add(self, image: Image.Image, saved, perfect: Image.Image, true: dict, photograph: int) -> None:
        name = os.path.join(self.path, str(self.count))
        if saved:
            image.save(f'{name}.jpg', quality=saved[0], subsampling=saved[1])
        else:
            image.save(f'{name}.png', compress_level=1)
        self.perfect.write(np.asarray(perfect).tobytes())
        self.told.write(np.asarray([true.get(one, NONE.get(one, 0)) for one in TRUE], np.float32).tobytes())
        self.photographs.write(bytes([photograph]))
        self.count += 1


def at_random(count: int, seed: int, side: int = SIDE, part: str = 'train') -> None:
    random.seed(seed)
    rng = np.random.default_rng(seed)
    name = str(seed) if side == SIDE else f'{part}-{side}-{seed}'
    folder, patches = Folder(name), Patches(part)
    for _ in range(count):
        large, number = patches.any(lambda least: int(side * random.uniform(1.5, min(4, (least - 1) / side))))
        image, true, saved = before_saving(large, side, rng)
        folder.add(image, saved, large.resize((side, side), Image.BICUBIC), true, number)


def held_out() -> None:
    still = np.random.default_rng(7)
    for name, (damage, saved, true) in CASES.items():
        folder = Folder(f'held-out-{name}')
        for number, picture in enumerate(pictures_of('held-out')):
            side = 4 * HELD_SIDE
            x, y = (picture.width - side) // 2, (picture.height - side) // 2
            perfect = picture.crop((x, y, x + side, y + side)).resize((HELD_SIDE, HELD_SIDE), Image.BICUBIC)
            folder.add(damage(perfect, still), saved, perfect, true, number)


if sys.argv[1] == 'held-out':
    held_out()
else:
    at_random(int(sys.argv[1]), int(sys.argv[2]), *[int(s) for s in sys.argv[3:4]], *sys.argv[4:5])
