"""Photographs to learn from and to measure on: free ones that Debian packages ship, reduced so that
their own blur and compression are gone. Writes PNG files to .data/photographs/{train,held-out}/.

    python3 training/photographs.py
"""
import glob
import io
import os
import re
import subprocess
import tempfile
import zipfile

from PIL import Image

HERE = os.path.dirname(os.path.abspath(__file__))
OUT = os.path.join(HERE, '.data', 'photographs')

# Package, files in it, and their licence as the package states it.
SOURCES = [
    ('lomiri-wallpapers-16.04', 'usr/share/backgrounds/*.jpg', 'CC-BY-4.0, CC-BY-SA-3.0, CC-BY-SA-4.0'),
    ('lomiri-wallpapers-20.04', 'usr/share/backgrounds/*.jpg', 'CC-BY-4.0, CC-BY-SA-3.0, CC-BY-SA-4.0'),
    ('mate-backgrounds', 'usr/share/backgrounds/mate/nature/*.jpg', 'GPL-2+, CC-BY-SA-4.0'),
    ('ukui-wallpapers', 'usr/share/backgrounds/*.jpg', 'CC-BY-SA-3.0'),
    ('plasma-workspace-wallpapers', 'usr/share/wallpapers/*/contents/images/2560x1600.*', 'GPL-2+'),
    ('plasma-workspace-wallpapers', 'usr/share/wallpapers/*/contents/images/3840x2160.*', 'GPL-2+'),
    ('plasma-workspace-wallpapers', 'usr/share/wallpapers/*/contents/images/5120x2880.*', 'GPL-2+'),
    ('gcompris-qt-data', 'usr/share/gcompris-qt/rcc/explore_*.rcc', 'CC-BY-SA-2.0 to 4.0, CC-BY, CC0, GPL-3+'),
    ('gcompris-qt-data', 'usr/share/gcompris-qt/rcc/erase.rcc', 'CC-BY-SA-2.0 to 4.0, CC-BY, CC0, GPL-3+'),
    ('ufoai-textures', 'usr/share/games/ufoai/base/*.pk3', 'GPL-2+, CC-BY-SA-3.0'),
]
# Never learnt from: figures are measured on these six, by the beginnings of their names.
HELD_OUT = ('Picture_1A', 'friends', 'life', 'Kleiber', 'TwoWings', 'greentock')
# Too blurred, too synthetic, or a copy of another.
LEFT_OUT = ('Fossa', 'umang', 'Infinite-Sea', 'analogpattern', 'Elarun', 'FlyingKonqui', 'DarkestHour',
            'PastelHills', 'Elephants_', 'MilkyWay', 'explore_world_music')
# Pictures of an archive that are no photographs: what games light their surfaces by.
NO_PHOTOGRAPH = re.compile(r'_(nm|sm|gm|rm)\.')


# Smaller ones leave too little once they are reduced, px.
LEAST = 4e5


def name_of(path: str) -> str:
    """File name without its maker; Plasma's pictures are named by their folder."""
    stem = os.path.splitext(os.path.basename(path))[0]
    return path.split('/')[-4] if stem[0].isdigit() and 'wallpapers/' in path and '/contents/' in path else stem.split('_by_')[0]


def reduced(image: Image.Image) -> Image.Image:
    width, height = image.size
    megapixels = width * height / 1e6
    factor = 2 if megapixels < 0.9 else 1.5 if megapixels < 1.6 else 2 if megapixels < 6 else 3
    return image.resize((int(width / factor), int(height / factor)), Image.LANCZOS)


def pictures_in(path: str):
    """Name and picture: one of a file, all large ones of an archive of them."""
    if path.endswith('.pk3'):
        with zipfile.ZipFile(path) as archive:
            for member in archive.namelist():
                if '/tex_nature/' in member and member.endswith(('.jpg', '.png')) and not NO_PHOTOGRAPH.search(member):
                    yield os.path.splitext(os.path.basename(member))[0], Image.open(io.BytesIO(archive.read(member)))
    elif path.endswith('.rcc'):
        # Resources of a program lie in it one after the other, whole.
        data = open(path, 'rb').read()
        for i, found in enumerate(re.finditer(rb'RIFF....WEBP|\xff\xd8\xff[\xe0\xe1\xdb]', data, re.S)):
            try:
                image = Image.open(io.BytesIO(data[found.start():]))
                image.load()
            except OSError:
                continue
            yield f'{name_of(path)}-{i}', image
    else:
        yield name_of(path), Image.open(path)


def main() -> None:
    seen: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as folder:
        for package in {source[0] for source in SOURCES}:
            subprocess.run(['apt-get', 'download', package], cwd=folder, check=True, stdout=subprocess.DEVNULL)
            subprocess.run(f'dpkg-deb -x {package}_*.deb {package}', cwd=folder, shell=True, check=True)
        for package, pattern, _ in SOURCES:
            for path in sorted(glob.glob(os.path.join(folder, package, pattern))):
                for name, image in pictures_in(path):
                    if name in seen or name.startswith(LEFT_OUT) or image.width * image.height < LEAST:
                        continue
                    part = 'held-out' if name.startswith(HELD_OUT) else 'train'
                    target = os.path.join(OUT, part, f'{name}.png')
                    os.makedirs(os.path.dirname(target), exist_ok=True)
                    reduced(image.convert('RGB')).save(target)
                    seen[name] = target
    held = sum('held-out' in path for path in seen.values())
    print(f'{len(seen) - held} photographs to learn from, {held} held out, in {OUT}')


if __name__ == '__main__':
    main()
