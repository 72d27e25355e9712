<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use Dokimos\Core\Measure\Interval;

/** One of several classes against all others. */
final readonly class ClassLine
{
    public function __construct(
        public string $name,
        public int $rows,
        public int $called,
        public Interval $precision,
        public Interval $recall,
        public Interval $f1,
        public ?Interval $auc,
    ) {
    }

    /** @return list<self> */
    public static function all(mixed $kept): array
    {
        $views = [];
        foreach (\is_array($kept) ? $kept : [] as $c) {
            /** @var array{name: string, rows: int, called: int, precision: array<string, ?float>, recall: array<string, ?float>, f1: array<string, ?float>, auc: ?array<string, ?float>} $c */
            $views[] = new self(
                $c['name'],
                $c['rows'],
                $c['called'],
                new Interval(...$c['precision']),
                new Interval(...$c['recall']),
                new Interval(...$c['f1']),
                null === $c['auc'] ? null : new Interval(...$c['auc']),
            );
        }

        return $views;
    }
}
