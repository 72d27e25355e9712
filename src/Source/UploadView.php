<?php

declare(strict_types=1);

namespace App\Source;

/** How far an upload has come. */
final readonly class UploadView
{
    public function __construct(public int $id, public string $fileName, public int $size, public int $received, public int $pieceSize)
    {
    }

    public static function of(Upload $upload): self
    {
        return new self($upload->id(), $upload->fileName(), $upload->size(), $upload->received(), Upload::PIECE);
    }
}
