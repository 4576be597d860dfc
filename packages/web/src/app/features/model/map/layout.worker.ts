/// <reference lib="webworker" />
// The layout algorithm itself: loaded in a worker it answers messages by itself.
import 'elkjs/lib/elk-worker.min.js';
