<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Task\Task;
use OpenApi\Attributes as OA;

/** Several classes: what is taken for what, each class against the others, and every figure. */
final readonly class ClassSection implements Section
{
    /**
     * @param list<FigureLine> $figures
     * @param list<list<int>>  $confusion rows by the class that came, across the class that was named
     * @param list<ClassLine>  $classes
     */
    public function __construct(
        #[OA\Property(enum: ['classes'])]
        public string $kind,
        public int $rows,
        public int $unanswered,
        public array $figures,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'array', items: new OA\Items(type: 'integer')))]
        public array $confusion,
        public array $classes,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $kept = $trial->figures();
        if (Task::MORE !== $scoring->task) {
            return null;
        }
        /** @var array{rows?: int, unanswered?: int, confusion?: list<list<int>>} $f */
        $f = $kept;

        return new self(
            'classes',
            $f['rows'] ?? 0,
            $f['unanswered'] ?? 0,
            FigureLine::all($trial, Task::MORE),
            $f['confusion'] ?? [],
            ClassLine::all($kept['classes'] ?? []),
        );
    }
}
