<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Act\SetFigures;

/** What acting on so many records costs and is expected to bring. */
final readonly class ListFiguresView
{
    /**
     * @param float  $events    expected among them were nothing done
     * @param float  $prevented expected to be prevented
     * @param ?float $roi       return by what is spent; null where nothing is
     */
    public function __construct(
        public int $actions,
        public float $cost,
        public float $events,
        public float $prevented,
        public float $gross,
        public float $return,
        public ?float $roi,
    ) {
    }

    public static function of(SetFigures $f): self
    {
        return new self($f->actions, $f->cost + $f->inVain, $f->events, $f->prevented, $f->gross, $f->return, $f->roi);
    }
}
