<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Task\Task;
use OpenApi\Attributes as OA;

/** A number: what was said against what came, where it runs off, and every figure. */
final readonly class NumberSection implements Section
{
    /**
     * @param list<FigureLine>      $figures
     * @param ?float                $governed the share of rows that holds half of all squared error, where that is few
     * @param list<NumberTenthView> $tenths
     * @param list<list<float>>     $dots     predicted, actual
     */
    public function __construct(
        #[OA\Property(enum: ['number'])]
        public string $kind,
        public int $rows,
        public int $unanswered,
        public ?float $governed,
        public array $figures,
        public array $tenths,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'array', items: new OA\Items(type: 'number')))]
        public array $dots,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $kept = $trial->figures();
        if (Task::NUMBER !== $scoring->task) {
            return null;
        }
        /** @var array{rows?: int, unanswered?: int, governed?: ?float, dots?: list<list<float>>} $f */
        $f = $kept;

        return new self(
            'number',
            $f['rows'] ?? 0,
            $f['unanswered'] ?? 0,
            $f['governed'] ?? null,
            FigureLine::all($trial, Task::NUMBER),
            NumberTenthView::all($kept['tenths'] ?? []),
            $f['dots'] ?? [],
        );
    }
}
