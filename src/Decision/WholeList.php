<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Act\Limits;

/** What a decision brings in all, wherever its tiers end. */
final readonly class WholeList
{
    /**
     * @param float                $none           what is lost when nobody is acted on
     * @param ?float               $visible        the least effect that the comparison group could show
     * @param list<CurvePointView> $curve
     * @param list<int>            $histogram      of the chances of all
     * @param list<int>            $actedHistogram
     * @param list<AssumptionView> $assumptions
     * @param list<ActionLineView> $actions
     */
    public function __construct(
        public ListFiguresView $acted,
        public ?DrawnView $drawn,
        public ListFiguresView $paying,
        public ListFiguresView $all,
        public float $none,
        public ?float $visible,
        public array $curve,
        public ?CutOffView $cutOff,
        public array $histogram,
        public array $actedHistogram,
        public array $assumptions,
        public ?Limits $limits,
        public array $actions,
    ) {
    }
}
