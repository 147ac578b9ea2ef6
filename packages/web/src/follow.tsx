import './ui/fonts.js';
import './ui/base.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Follow } from './live/follow/follow.js';
import { keepPage } from './live/follow/keep-page.js';
import { phoneLanguage } from './live/follow/phone-settings.js';
import { Greys } from './ui/greys.js';
import { browserLanguage, fetchLanguage, speakOnPage } from './ui/language.js';

const root = document.getElementById('root');
const language = phoneLanguage() ?? browserLanguage();
await fetchLanguage(language)
  .then(() => speakOnPage(language))
  .catch(() => undefined);
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
