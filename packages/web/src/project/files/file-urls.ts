import type { ServerFile } from '../../api/types';

export const fileUrl = (projectId: string, { pieceId, outputId, key }: ServerFile): string =>
  `/api/projects/${projectId}/files/${pieceId}/${outputId}?key=${key}`;
/** Any page of a file that has several, as it is at a version of the project, as large as a window. */
export const pageUrl = (
  projectId: string,
  version: number,
  file: { pieceId: string; outputId: string },
  page: number,
) => `/api/projects/${projectId}/files/${file.pieceId}/${file.outputId}/picture.png?page=${page}&at=${version}&large=1`;
export const pictureUrl = (projectId: string, { pieceId, outputId, key }: ServerFile): string =>
  `/api/projects/${projectId}/files/${pieceId}/${outputId}/picture.png?key=${key}`;
/** The same by itself, as large as a window. */
export const largePictureUrl = (projectId: string, file: ServerFile): string =>
  `${pictureUrl(projectId, file)}&large=1`;
