<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShownCurve;
use Dokimos\Core\Learn\ShownPair;
use Dokimos\Core\Learn\ShowsCurves;
use OpenApi\Attributes as OA;

/** One curve for each column, and a few pairs, that add up to the answer. */
final readonly class CurvesSection implements Section
{
    /**
     * @param list<ShownCurve> $curves that which carries most first
     * @param list<ShownPair>  $joint  what two columns do together
     * @param float            $start  what an answer starts from: log-odds, or a number
     * @param bool             $isOdds whether curves add to log-odds
     */
    public function __construct(
        #[OA\Property(enum: ['curves'])]
        public string $kind,
        public array $curves,
        public array $joint,
        public float $start,
        public bool $isOdds,
        public string $size,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $model = $scoring->model;

        return $model instanceof ShowsCurves && [] !== $model->curves()
            ? new self('curves', $model->curves(), $model->pairs(), $model->start(), $model->addsToOdds(), $model->size())
            : null;
    }
}
