<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Measure\Interval;

/** A figure then and now. */
final readonly class Line
{
    public const WORSE = 'worse';
    public const BETTER = 'better';
    public const NOISE = 'within noise';
    public const UNKNOWN = 'not to be told';

    /**
     * @param Interval  $then       on the records that the model was examined on
     * @param Interval  $now        on the newer ones
     * @param ?Interval $difference now less then; null where one of them has no interval
     * @param ?float    $p          that a difference as large comes by chance
     * @param bool      $decides    whether the verdict goes by it
     * @param ?float    $baseline   what doing nothing scores now
     * @param bool      $more       whether more is better
     */
    public function __construct(
        public string $key,
        public string $name,
        public string $title,
        public Interval $then,
        public Interval $now,
        public ?Interval $difference,
        public ?float $p,
        public bool $decides,
        public ?float $baseline,
        public bool $more,
        public bool $inShare = false,
        public bool $inUnits = false,
    ) {
    }

    /** Beyond noise one by one; the verdict asks more of them. */
    public function says(float $p = 0.05): string
    {
        if (null === $this->p || null === $this->difference?->value) {
            return self::UNKNOWN;
        }

        return $this->p >= $p ? self::NOISE : ($this->difference->value > 0.0 === $this->more ? self::BETTER : self::WORSE);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'key' => $this->key, 'name' => $this->name, 'title' => $this->title,
            'then' => $this->then->toArray(), 'now' => $this->now->toArray(), 'difference' => $this->difference?->toArray(),
            'p' => $this->p, 'decides' => $this->decides, 'says' => $this->says(), 'baseline' => $this->baseline,
            'more' => $this->more, 'share' => $this->inShare, 'units' => $this->inUnits,
        ];
    }
}
