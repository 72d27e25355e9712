<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Decide\ScoringModel;
use OpenApi\Attributes as OA;

/** How chances were made to come true: which way was taken, what each would have given, and the chances as they came. */
final readonly class CalibratedSection implements Section
{
    /**
     * @param string                $asked  the way that was asked for
     * @param string                $way    the one that was taken
     * @param list<WayView>         $ways   those that were weighed, each judged on folds that it had not learned from
     * @param list<CalibrationView> $before chances as they came; [] for several classes
     */
    public function __construct(
        #[OA\Property(enum: ['calibrated'])]
        public string $kind,
        public string $asked,
        public string $way,
        public array $ways,
        public array $before,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $kept = $trial->figures()['calibrated'] ?? null;
        if (!\is_array($kept)) {
            return null;
        }
        $ways = [];
        foreach (\is_array($kept['losses'] ?? null) ? $kept['losses'] : [] as $way => $loss) {
            $ways[] = new WayView((string) $way, is_numeric($loss) ? (float) $loss : null);
        }

        return new self(
            'calibrated',
            $trial->calibration(),
            \is_string($kept['way'] ?? null) ? $kept['way'] : Way::NONE,
            $ways,
            CalibrationView::all($kept['before'] ?? []),
        );
    }
}
