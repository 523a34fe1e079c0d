import { useQuery } from '@tanstack/react-query';
import { veilFor, VEILS, type Veil } from '@/core/zone/veil';
import { thumbnailOf } from '../../../data/api';
import type { WorkBench } from '../../use-work';

/** Pixels of the small copy that colours are counted in, on its longest side. */
const SIDE = 64;

/** A colour that the picture on the bench has not, to show zones by. */
export function useVeil({ job }: WorkBench): Veil {
  const { digest, findings } = job.piece;
  const { data } = useQuery({
    queryKey: ['veil', digest, findings.page],
    queryFn: async () => {
      const image = new Image();
      image.src = thumbnailOf(digest, findings.page);
      await image.decode();
      const { naturalWidth: width, naturalHeight: height } = image;
      const scale = Math.min(1, SIDE / Math.max(width, height));
      const canvas = document.createElement('canvas');
      canvas.width = Math.max(1, Math.round(width * scale));
      canvas.height = Math.max(1, Math.round(height * scale));
      const context = canvas.getContext('2d')!;
      context.drawImage(image, 0, 0, canvas.width, canvas.height);
      return veilFor(context.getImageData(0, 0, canvas.width, canvas.height).data);
    },
    staleTime: Infinity,
    retry: false,
  });
  return data ?? VEILS[0]!;
}
