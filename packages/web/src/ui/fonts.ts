import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/alegreya';
