import './ui/fonts.js';
import './ui/base.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Follow } from './live/follow/follow.js';
import { keepPage } from './live/follow/keep-page.js';
import { Greys } from './ui/greys.js';

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <Greys where="phone">
        <Follow />
      </Greys>
    </StrictMode>,
  );
}

keepPage();
