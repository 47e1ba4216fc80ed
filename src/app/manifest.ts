import type { MetadataRoute } from 'next';

/** What a browser needs to install the page as a program of its own. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Bujo',
    short_name: 'Bujo',
    description: 'A bench for proving the link to a drive.',
    start_url: '/',
    display: 'standalone',
    background_color: '#f5f0e6',
    theme_color: '#f5f0e6',
    icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
  };
}
