<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

/** How strongly two columns go together, on one scale for all kinds. Definitions: docs/methods/pictures.md. */
final readonly class Pair
{
    /**
     * @param string $measure  "rank correlation", "Cramér's V" or "correlation ratio"
     * @param float  $strength -1 to 1 for the rank correlation, 0 to 1 for the others
     * @param ?float $pearson  for two numbers
     * @param int    $n        records where both are present
     */
    public function __construct(public string $first, public string $second, public string $measure, public float $strength, public ?float $low, public ?float $high, public float $p, public ?float $pearson, public int $n, public float $adjusted)
    {
    }

    public function adjustedTo(float $p): self
    {
        return new self($this->first, $this->second, $this->measure, $this->strength, $this->low, $this->high, $this->p, $this->pearson, $this->n, $p);
    }
}
