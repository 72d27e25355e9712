<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Figure\Figure;

/** A figure that answers are judged by, as it is named, told and drawn. */
final readonly class FigureView
{
    /**
     * @param bool   $more    whether more is better
     * @param bool   $inUnits whether it is told with significant digits, as what is in units of the target
     * @param bool   $inShare whether it is told in percent
     * @param ?float $least   that it cannot be below
     */
    public function __construct(
        public string $key,
        public string $name,
        public bool $more,
        public bool $inUnits,
        public bool $inShare,
        public ?float $least,
        public ?float $most,
    ) {
    }

    public static function of(Figure $figure): self
    {
        return new self($figure->key, $figure->name, $figure->more, $figure->inUnits, $figure->inShare, $figure->least, $figure->most);
    }
}
