<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Blend\Mixing;
use Dokimos\Core\Learn\AnswersInPart;
use Dokimos\Core\Learn\ShowsBlend;
use Dokimos\Core\Learn\TakesTime;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;

/** Whole models, each with its own preparation and columns, that answer together. */
final readonly class Blended implements TellsClasses, ShowsBlend, TakesTime, AnswersInPart, Mixes
{
    public const NAME = 'blend';

    /** @var \WeakMap<Table, list<Answers>> what each answers for a whole table that is still in use: marks are asked after answers */
    private \WeakMap $said;

    /**
     * @param non-empty-list<ScoringModel>          $models
     * @param list<array{trial: int, name: string}> $of      what they are called
     * @param list<string>                          $classes none for a number
     * @param list<string>                          $notes
     */
    public function __construct(
        private array $models,
        private array $of,
        private Mixing $mixing,
        private array $classes,
        private array $notes,
    ) {
        /** @var \WeakMap<Table, list<Answers>> $said */
        $said = new \WeakMap();
        $this->said = $said;
    }

    public function classes(): array
    {
        return $this->classes;
    }

    /**
     * @param ?list<int> $rows
     *
     * @return list<Answers> of each of them
     */
    private function each(Table $table, ?array $rows): array
    {
        $ask = fn (Table $asked): array => array_map(
            static fn (ScoringModel $m): Answers => $m->answers($m->select($asked, $m->byName())),
            $this->models,
        );

        return null === $rows ? $this->said[$table] ??= $ask($table) : $ask($table->take($rows));
    }

    /** @param ?list<int> $rows */
    private function answers(Table $table, ?array $rows): Answers
    {
        return $this->mixing->of($this->each($table, $rows));
    }

    public function inPart(Table $table): array
    {
        $each = $this->each($table, null);
        $out = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $silent = array_keys(array_filter($each, static fn (Answers $a): bool => !$a->isKnown($row)));
            if ([] !== $silent && \count($silent) < \count($each)) {
                $out[$row] = \sprintf(
                    'Answered without %s.',
                    implode(' and ', array_map(
                        fn (int $k): string => \sprintf('trial %d (%s)', $this->of[$k]['trial'], $this->of[$k]['name']),
                        $silent,
                    )),
                );
            }
        }

        return $out;
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $answers = $this->answers($table, $rows);
        $out = [];
        for ($i = 0, $n = $answers->rows(); $i < $n; ++$i) {
            $own = $answers->of($i);
            $out[] = $own[\count($own) - 1];
        }

        return $out;
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $answers = $this->answers($table, $rows);
        $out = array_fill(0, max(2, \count($this->classes)), []);
        for ($i = 0, $n = $answers->rows(); $i < $n; ++$i) {
            $own = $answers->of($i);
            foreach (1 === \count($own) ? [1.0 - $own[0], $own[0]] : $own as $c => $p) {
                $out[$c][] = $p;
            }
        }

        return array_values($out);
    }

    public function columns(): array
    {
        $columns = [];
        foreach ($this->models as $model) {
            $columns += $model->asked;
        }

        return array_map(strval(...), array_keys($columns));
    }

    public function cost(): int
    {
        return array_sum(array_map(
            static fn (ScoringModel $m): int => $m->model instanceof TakesTime ? $m->model->cost() : 0,
            $this->models,
        ));
    }

    public function models(): array
    {
        return $this->models;
    }

    public function mixing(): Mixing
    {
        return $this->mixing;
    }

    public function size(): string
    {
        return \count($this->models).' trials';
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function how(): string
    {
        return $this->mixing->how;
    }

    public function members(): array
    {
        return array_map(
            static fn (array $of, float $weight): array => $of + ['weight' => $weight],
            $this->of,
            $this->mixing->weights,
        );
    }

    public function toArray(): array
    {
        return [
            'learner' => self::NAME,
            'models' => array_map(static fn (ScoringModel $m): array => $m->toArray(), $this->models),
            'of' => $this->of,
            'mixing' => $this->mixing->toArray(),
            'classes' => $this->classes,
            'notes' => $this->notes,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     models: non-empty-list<array<string, mixed>>, of: list<array{trial: int, name: string}>,
         *     mixing: array<string, mixed>, classes: list<string>, notes: list<string>,
         * } $data
         */
        return new self(
            array_map(ScoringModel::fromArray(...), $data['models']),
            $data['of'],
            Mixing::fromArray($data['mixing']),
            $data['classes'],
            $data['notes'],
        );
    }
}
