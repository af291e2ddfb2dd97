"""The board: a document of steps drawn on, sentence by sentence, with what the pointer is near."""
