<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\TrialData;

/** The rows that a guided search makes its choices on, and how they are prepared. */
final readonly class Material
{
    public string $task;
    /** @var list<array<string, mixed>> what fills the cells that the preparation leaves missing */
    private array $usual;

    /**
     * @param Table                      $table    the open rows, before preparation
     * @param list<string>               $inputs   raw columns that may serve
     * @param list<float>                $outcome
     * @param ?list<string>              $classes
     * @param ?list<float>               $weights
     * @param list<array<string, mixed>> $steps    of the preparation it begins with
     * @param list<int>                  $choosing rows that choices are made on
     */
    public function __construct(
        public Table $table,
        public array $inputs,
        public array $outcome,
        public ?array $classes,
        public ?array $weights,
        public ?Apart $apart,
        private array $steps,
        public array $choosing,
    ) {
        $this->task = null === $classes ? Task::NUMBER : (2 === \count($classes) ? Task::TWO : Task::MORE);
        $this->usual = $this->fills($steps);
    }

    /** @param list<array<string, mixed>> $steps */
    public function prepared(array $steps): TrialData
    {
        return new TrialData(
            $this->table,
            $this->inputs,
            $this->outcome,
            Preparation::fromArray($steps),
            $this->classes,
            $this->weights,
            $this->apart,
        );
    }

    /**
     * The preparation's own steps, then ways to fill that were found, then what fills the cells still missing, then what was made.
     *
     * @param list<Idea> $ideas
     *
     * @return list<array<string, mixed>>
     */
    public function steps(array $ideas): array
    {
        $of = static fn (bool $first): array => array_merge(...array_map(
            static fn (Idea $i): array => $i->first === $first ? $i->steps : [],
            $ideas,
        ));
        $first = $of(true);
        $fills = [] === $first ? $this->usual : $this->fills([...$this->steps, ...$first]);

        return [...$this->steps, ...$first, ...$fills, ...$of(false)];
    }

    /**
     * Numbers with missing cells take the median and are marked, categories the most frequent value.
     *
     * @param list<array<string, mixed>> $begun
     *
     * @return list<array<string, mixed>>
     */
    private function fills(array $begun): array
    {
        $prepared = $this->prepared($begun)->prepared($this->choosing);
        $missing = [];
        foreach ($prepared->task->inputs as $name) {
            $column = $prepared->task->table->column($name);
            foreach ($this->choosing as $row) {
                if ($column->isMissing($row)) {
                    $missing[$column->kind()->value] = true;
                    break;
                }
            }
        }
        $fills = [];
        foreach ([Kind::Number, Kind::Category, Kind::YesNo] as $kind) {
            if (isset($missing[$kind->value])) {
                $fills[] = [
                    'step' => 'fill_missing',
                    'columns' => [],
                    'choose' => ['kinds' => [$kind->value], 'missing' => true],
                    'method' => Kind::Number === $kind ? 'median' : 'most frequent',
                    'mark' => Kind::Number === $kind,
                ];
            }
        }

        return $fills;
    }

    /**
     * @param list<int> $rows
     *
     * @return ?list<float> per row; null where all count alike
     */
    public function weightsOf(array $rows): ?array
    {
        return null === $this->weights ? null : array_map(fn (int $r): float => $this->weights[$r] ?? 1.0, $rows);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float> per row
     */
    public function outcomesOf(array $rows): array
    {
        return array_map(fn (int $r): float => $this->outcome[$r], $rows);
    }
}
