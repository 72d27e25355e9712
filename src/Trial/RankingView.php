<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Figure\Figure;

/** A figure that trials can be ranked by, with what it says to somebody who decides. */
final readonly class RankingView
{
    public function __construct(public string $key, public string $name, public string $title, public string $says)
    {
    }

    public static function of(Figure $figure): self
    {
        return new self($figure->key, $figure->name, $figure->title, $figure->says);
    }
}
