/** Colours and type of what the plane draws, as `app.css` has them. */
export const COLOURS = {
  table: '#cfd0cc',
  ink: '#171b1c',
  ink2: '#3c4344',
  spruce: '#0c6a53',
  cut: '#d2452a',
  ochre: '#8f5c06',
  bad: '#b3291d',
  white: '#ffffff',
  grey: '#8f9492',
  dark: '#2a2f30',
  paper: '#f8f8f5',
  line: '#a9aca7',
  making: '#bcd6cb',
};
export const NAME_FONT = '600 11.5px "Spline Sans Mono"';
export const NOTE_FONT = '400 11.5px "Spline Sans Mono"';
/** Width of one character of either, in CSS px. */
export const MONO_ADVANCE = 6.9;
