"""Photographs on which the finding of faces is measured, which are never committed: python3 training/faces/pictures.py

Of two Debian packages: one's holiday pictures, with people on a good half of them, and another's of musicians, farm animals
and monuments. They are written as .data/faces/NUMBER.png, numbered by package and place.
"""
import glob
import os
import subprocess
import sys
import tempfile

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), '..'))
from learning import DATA
from photographs import Image, pictures_in

OUT = os.path.join(DATA, 'faces')
SOURCES = [
    ('kphotoalbum', 'usr/share/kphotoalbum/demo/*.jpg'),
    ('gcompris-qt-data', 'usr/share/gcompris-qt/rcc/explore_world_music.rcc'),
    ('gcompris-qt-data', 'usr/share/gcompris-qt/rcc/explore_farm_animals.rcc'),
    ('gcompris-qt-data', 'usr/share/gcompris-qt/rcc/explore_monuments.rcc'),
]
# Buttons and marks lie beside the photographs, px.
LEAST = 200


def main() -> None:
    os.makedirs(OUT, exist_ok=True)
    count = 0
    with tempfile.TemporaryDirectory() as folder:
        for package in {package for package, _ in SOURCES}:
            subprocess.run(['apt-get', 'download', package], cwd=folder, check=True, stdout=subprocess.DEVNULL)
            subprocess.run(f'dpkg-deb -x {package}_*.deb {package}', cwd=folder, shell=True, check=True)
        for s, (package, pattern) in enumerate(SOURCES):
            pictures = [image for path in sorted(glob.glob(os.path.join(folder, package, pattern)))
                        for _, image in pictures_in(path) if min(image.size) >= LEAST]
            for i, image in enumerate(pictures):
                image.convert('RGB').save(os.path.join(OUT, f'{s}-{i:02}.png'))
            count += len(pictures)
    print(f'{count} photographs in {OUT}')


main()
