/** Drawings that use what the importer promises to read; each a 240x240 SVG. */
import { DOCUMENTS } from './corpusDocuments'

const svg = (inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="240" viewBox="0 0 240 240">${inside}</svg>`

const SHAPES: Readonly<Record<string, string>> = {
  'path commands': svg(
    `<path d="M20 30 h60 v40 H50 V100 L20 90 l-5 -20 C0 60 10 40 20 30 Z" fill="#3A5F61"/><path d="M120 40 c20 -40 60 -40 80 0 S180 120 160 100 s-40 0 -40 -60" fill="none" stroke="#8E482B" stroke-width="6"/>
     <path d="M20 140 Q60 100 100 140 T180 140 t40 20 q-30 60 -60 30 T60 200 Z" fill="#E0A544" stroke="#20302E" stroke-width="2"/><path d="M150 185 A40 20 30 0 1 205 195 A10 10 0 1 0 190 205 a24 12 -20 1 1 -40 -20z" fill="#6E9F90"/>`,
  ),
  shapes: svg(
    `<rect x="10" y="10" width="80" height="50" fill="#B9553B"/><rect x="110" y="10" width="100" height="50" rx="20" ry="10" fill="#34575A"/><rect x="20" y="70" width="60" height="40" rx="100" fill="#EBBE5C"/>
     <circle cx="140" cy="110" r="35" fill="#D9956A"/><ellipse cx="190" cy="150" rx="20" ry="45" fill="#4B2A22"/><polygon points="20,140 70,150 60,200 15,190" fill="#6E9F90"/>
     <polyline points="90 150 110 200 130 160 150 220" fill="none" stroke="#20302E" stroke-width="5"/><line x1="20" y1="225" x2="120" y2="215" stroke="#C2402C" stroke-width="7"/>`,
  ),
  transforms: svg(
    `<g transform="translate(60 60) rotate(30) scale(1.5 .8)"><rect x="-20" y="-20" width="40" height="40" fill="#3A5F61"/><g transform="skewX(20) skewY(-10)"><circle r="14" fill="#EBBE5C" stroke="#20302E" stroke-width="4"/></g></g>
     <g transform="matrix(-1 .2 .3 1 200 40)"><path d="M0 0h60l-20 50z" fill="#B9553B"/></g><path d="M0 0 L80 0 L40 60Z" transform="rotate(-20 120 180) translate(100,150)" fill="none" stroke="#8E482B" stroke-width="10" stroke-linejoin="round"/>
     <path d="M10 10 h40" transform="translate(20 170) scale(1 4)" stroke="#5E5566" stroke-width="6"/>`,
  ),
  'fill rules and strokes': svg(
    `<path fill-rule="evenodd" d="M60 10 L90 100 L15 45 L105 45 L30 100Z" fill="#24349E"/><path d="M170 10 L200 100 L125 45 L215 45 L140 100Z" fill="#B06E00"/>
     <g fill="none" stroke="#2A7C75" stroke-width="14"><path d="M20 130 l30 40 l30 -40" stroke-linejoin="miter"/><path d="M100 130 l30 40 l30 -40" stroke-linejoin="round" stroke-linecap="round"/><path d="M180 130 l20 40 l20 -40" stroke-linejoin="bevel" stroke-linecap="square"/>
     <path d="M20 200 l10 25 l10 -25" stroke-miterlimit="1" stroke-width="6"/><path d="M60 210 h160" stroke-width="5" stroke-dasharray="12 6 3" stroke-dashoffset="4"/></g>`,
  ),
  'gradients of shapes': svg(
    `<defs><linearGradient id="a"><stop offset="0" stop-color="#C2402C"/><stop offset=".5" stop-color="#EBBE5C" stop-opacity=".6"/><stop offset="1" stop-color="#1E7A6B"/></linearGradient>
     <linearGradient id="b" href="#a" x1="0" y1="0" x2=".3" y2=".3" spreadMethod="reflect"/><linearGradient id="c" href="#a" gradientUnits="userSpaceOnUse" x1="20" y1="150" x2="60" y2="180" spreadMethod="repeat"/>
     <radialGradient id="d" cx=".4" cy=".4" r=".6" fx=".2" fy=".3"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#34575A"/></radialGradient>
     <radialGradient id="e" href="#d" gradientTransform="rotate(25) scale(1 .5)"/></defs>
     <rect x="10" y="10" width="100" height="60" fill="url(#a)"/><rect x="130" y="10" width="100" height="60" fill="url(#b)"/><rect x="10" y="130" width="100" height="90" fill="url(#c)"/>
     <circle cx="60" cy="100" r="26" fill="url(#d)"/><g transform="translate(180 160) rotate(20)"><ellipse rx="50" ry="70" fill="url(#e)" stroke="url(#a)" stroke-width="8"/></g>`,
  ),
  'opacity and inheritance': svg(
    `<g opacity=".5"><rect x="20" y="20" width="100" height="100" fill="#C2402C"/><g opacity=".6"><rect x="70" y="70" width="100" height="100" fill="#1E7A6B"/><circle cx="150" cy="80" r="40" fill="#B27E1E"/></g></g>
     <g fill="#24349E" stroke="#EBBE5C" stroke-width="6" style="stroke-opacity:.7; fill-opacity: 60%"><rect x="120" y="150" width="50" height="50"/><circle cx="200" cy="190" r="26" style="fill:hsl(20, 60%, 50%);opacity:.5"/><path d="M20 200 L90 150 L100 220Z" fill="none"/></g>
     <g color="#5A0E70" fill="currentColor"><rect x="30" y="140" width="40" height="14"/></g><g display="none"><rect width="240" height="240"/></g>`,
  ),
}

export const CORPUS: Readonly<Record<string, string>> = { ...SHAPES, ...DOCUMENTS }
