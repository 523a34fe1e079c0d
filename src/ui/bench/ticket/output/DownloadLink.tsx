import { Download } from 'lucide-react';
import type { Artifact } from '@/core/shop/task';
import { artifactAddress } from '../../../data/api';

/** Where a task's file is to be had. */
export const DownloadLink = ({ task, file }: { task: string; file: Artifact }) => (
  <a
    className="btn btn-quiet btn-sm d-flex align-items-center gap-2"
    href={artifactAddress(task, 'result')}
    download
  >
    <Download size={14} aria-hidden />
    <span className="text-truncate" title={file.fileName}>
      {file.fileName}
    </span>
  </a>
);
