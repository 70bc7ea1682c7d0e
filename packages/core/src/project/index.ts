/** The project file: plain SVG that holds a whole project. */

export * from './live-svg';
export * from './project-file';
