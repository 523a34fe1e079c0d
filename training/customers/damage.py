"""What becomes of pictures before they reach a print shop, at random and in fixed ways, and what is told of it.

Two rounds at most, as files travel: reduced, blurred, noisy, sharpened, compressed, resized, compressed again.
"""
import io
import random

import numpy as np
from PIL import Image, ImageFilter

KERNELS = [Image.BICUBIC] * 3 + [Image.LANCZOS, Image.BILINEAR, Image.BOX]

# What is true of a file, each about 0 to 1: blur (its standard deviation / 2 px), noise (level / 12), size of its grain (px
# beyond 1), sharpening (percent / 180), the coarsest JPEG on its own pixels ((100 - quality) / 60), halved colour, resized
# after compression, enlarged (doublings / 1.5), radius of the sharpening (/ 3 px), how much stronger noise is in the
# darks (doublings from three quarters of the tones to one quarter / 2), whether it has colours, and whether it was saved
# once more as a finer JPEG.
TRUE = ('blur', 'noise', 'grain', 'sharpening', 'compression', 'halved colour', 'resized', 'enlarged', 'radius',
        'darks', 'coloured', 'saved again')
# What is measured of it.
MEASURED = ('blur', 'noise', 'grain', 'sharpening', 'resized', 'enlarged', 'compression')
# Of what kind noise and sharpening were: of what has none there is nothing to measure.
KINDS = ('radius', 'darks', 'coloured')
NONE = dict.fromkeys(KINDS, float('nan'))


def jpeg(image: Image.Image, quality: float, sampling: int) -> Image.Image:
    kept = io.BytesIO()
    image.save(kept, 'JPEG', quality=int(quality), subsampling=sampling)
    kept.seek(0)
    return Image.open(kept).convert('RGB')


def saved_in(image: Image.Image, quality: float, sampling: int, left: int, top: int) -> Image.Image:
    """As it was when it was part of a JPEG whose blocks began so many pixels off."""
    wide = np.pad(np.asarray(image), ((top, 0), (left, 0), (0, 0)), 'edge')
    return jpeg(Image.fromarray(wide), quality, sampling).crop((left, top, left + image.width, top + image.height))


def noisy(image: Image.Image, level: float, grain: float, colour: bool, rng: np.random.Generator, darks: float = 0) -> Image.Image:
    """
    Noise of a level in the middle tones; `grain` beyond 0 smooths it to specks of that many pixels more; `darks`: by how
    many doublings it is stronger at a quarter of the tones than at three quarters.
    """
    pixels = np.asarray(image).astype(np.float32)
    noise = rng.normal(0, 1, pixels.shape if colour else (*pixels.shape[:2], 1)).astype(np.float32)
    if grain > 0:
        share = grain / 2
        for axis in (0, 1):
            noise = noise + share * (np.roll(noise, 1, axis) + np.roll(noise, -1, axis))
        noise /= noise.std()
    if darks:
        tone = np.asarray(image.convert('L').filter(ImageFilter.BoxBlur(1))).astype(np.float32)[..., None] / 255
        noise *= 2 ** (darks * (1 - 2 * tone))
    return Image.fromarray(np.clip(pixels + level * noise, 0, 255).round().astype(np.uint8))


def out_of_focus(image: Image.Image, sigma: float) -> Image.Image:
    """A disc of the same spread as a Gaussian, on pixels with soft rims."""
    radius = 2 * sigma
    reach = int(np.ceil(radius + 0.5))
    if reach > 2:
        return image.filter(ImageFilter.GaussianBlur(sigma))
    y, x = np.mgrid[-2:3, -2:3]
    disc = np.clip(radius + 0.5 - np.hypot(x, y), 0, 1)
    return image.filter(ImageFilter.Kernel((5, 5), disc.flatten().tolist(), disc.sum()))


def enlarged_by(times: float) -> float:
    return max(0.0, float(np.log2(times))) / 1.5


def before_saving(large: Image.Image, size: int, rng: np.random.Generator) -> tuple:
    """A small picture of `size` pixels a side as it is before it is saved last, and what is true of it, in the order of
    TRUE; then the quality and sampling of the JPEG that it is saved as, or None."""
    told = dict.fromkeys(TRUE, 0.0) | NONE
    if random.random() < 0.15:
        return large.resize((size, size), random.choice(KERNELS)), told, None
    sampling = random.choice((0, 2, 2))
    turn = random.random()
    if turn < 0.25:
        told['resized'] = 1.0
        between = int(size * random.uniform(0.8, 1.8))
        image = large.resize((between, between), random.choice(KERNELS))
        if random.random() < 0.7:
            image = jpeg(image, random.uniform(40, 95), random.choice((0, 2)))
        image = image.resize((size, size), random.choice(KERNELS))
        told['enlarged'] = enlarged_by(size / between)
    elif turn < 0.45:
        between = round(size / 2 ** random.uniform(0.4, 1.7))
        image = large.resize((between, between), random.choice(KERNELS))
        if random.random() < 0.5:
            told['resized'] = 1.0
            image = jpeg(image, random.uniform(60, 95), random.choice((0, 2)))
        image = image.resize((size, size), random.choice((Image.BICUBIC, Image.BICUBIC, Image.BILINEAR, Image.LANCZOS)))
        told['enlarged'] = enlarged_by(size / between)
    else:
        image = large.resize((size, size), random.choice(KERNELS))
    if random.random() < 0.5:
        sigma = random.uniform(0.2, 1.5)
        told['blur'] = sigma / 2
        image = out_of_focus(image, sigma) if random.random() < 0.3 else image.filter(ImageFilter.GaussianBlur(sigma))
    if random.random() < 0.5:
        level, grain = random.uniform(1, 12), random.choice((0, random.uniform(0, 1.5)))
        darks, colour = random.choice((0, random.uniform(-1, 2))), random.random() < 0.6
        told['noise'], told['grain'], told['darks'], told['coloured'] = level / 12, grain, darks / 2, float(colour)
        image = noisy(image, level, grain, colour, rng, darks)
    if random.random() < 0.3:
        amount, radius = random.uniform(30, 180), 0.5 * 6 ** random.random()
        told['sharpening'], told['radius'] = amount / 180, radius / 3
        image = image.filter(ImageFilter.UnsharpMask(radius, int(amount), random.choice((0, 0, 2))))
    if random.random() < 0.75:
        quality = random.uniform(35, 95)
        told['compression'], told['halved colour'] = (100 - quality) / 60, float(sampling == 2)
        if random.random() < 0.2 and quality < 85:
            told['saved again'] = 1.0
            off = random.choice(((0, 0), (random.randrange(8), random.randrange(8))))
            image, quality = saved_in(image, quality, sampling, *off), random.uniform(quality + 8, 97)
        return image, told, (int(quality), sampling)
    return image, told, None


# Fixed ways, for figures: how a reduced picture is damaged before it is saved, as what, and what is told of it.
CASES = {
    'perfect': (lambda i, rng: i, None, {}),
    'soft': (lambda i, rng: i.filter(ImageFilter.GaussianBlur(1)), (85, 2), {'blur': 0.5, 'compression': 0.25, 'halved colour': 1}),
    'phone': (lambda i, rng: noisy(i.filter(ImageFilter.GaussianBlur(0.7)), 6, 0, True, rng), (70, 2),
              {'blur': 0.35, 'noise': 0.5, 'compression': 0.5, 'halved colour': 1}),
    'twice': (lambda i, rng: jpeg(i.resize((int(i.width * 1.3), int(i.height * 1.3)), Image.BICUBIC), 70, 2).resize(i.size, Image.BICUBIC), (80, 2),
              {'resized': 1, 'compression': 1 / 3, 'halved colour': 1}),
    'grain': (lambda i, rng: noisy(i, 8, 1, False, rng), (80, 2), {'noise': 2 / 3, 'grain': 1, 'compression': 1 / 3, 'halved colour': 1}),
    'sharpened': (lambda i, rng: i.filter(ImageFilter.UnsharpMask(1, 120, 0)), (75, 2),
                  {'sharpening': 2 / 3, 'compression': 5 / 12, 'halved colour': 1}),
    'enlarged': (lambda i, rng: i.resize((i.width // 2, i.height // 2), Image.BICUBIC).resize(i.size, Image.BICUBIC), (85, 2),
                 {'enlarged': 2 / 3, 'compression': 0.25, 'halved colour': 1}),
    'JPEG 60': (lambda i, rng: i, (60, 2), {'compression': 2 / 3, 'halved colour': 1}),
}
