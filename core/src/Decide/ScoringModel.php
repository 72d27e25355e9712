<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Explain\Contributions;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Learners;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** A fitted model with the preparation it was fitted on: everything needed to score a new record. */
final readonly class ScoringModel
{
    public const SCHEMA = 'dokimos-model/1';

    /** @param array<string, Kind> $asked the raw columns it needs, with their kinds at training */
    public function __construct(
        public string $target,
        public string $event,
        public array $asked,
        public FittedPreparation $preparation,
        public Model $model,
        public float $baseRate,
        public string $task = AboutLearner::TWO,
    ) {
    }

    /**
     * Only the raw columns that the steps or the model read.
     *
     * @param Table $raw the table it was trained on, before preparation
     */
    public static function trained(string $target, string $event, Table $raw, FittedPreparation $preparation, Model $model, float $baseRate, string $task = AboutLearner::TWO): self
    {
        $needed = $preparation->asks($model->columns());
        $asked = [];
        foreach ($raw->names() as $name) {
            if (\in_array($name, $needed, true)) {
                $asked[$name] = $raw->column($name)->kind();
            }
        }

        return new self($target, $event, $asked, $preparation, $model, $baseRate, $task);
    }

    /** @return array<string, string> the match of a table that has the very columns asked for */
    public function byName(): array
    {
        $names = array_map(strval(...), array_keys($this->asked));

        return array_combine($names, $names);
    }

    /**
     * The columns it asks for, taken from a table of new records.
     *
     * @param array<string, string> $match asked => found; columns without an entry count as missing
     */
    public function select(Table $table, array $match): Table
    {
        $columns = [];
        foreach ($this->asked as $name => $kind) {
            $found = $match[$name] ?? null;
            $columns[$name] = null !== $found && $table->has($found) ? Conversion::to($table->column($found), $kind) : Conversion::missing($kind, $table->rows);
        }

        return Table::of($columns, $table->rows);
    }

    /**
     * Answers for prepared rows; NAN where a value is missing that the model needs, and where a step has taken the row out.
     *
     * @param ?list<int> $rows  all rows when null
     * @param int        $width numbers of an answer: of several classes the chances of all, row after row
     *
     * @return list<float>
     */
    public static function answersOf(Model $model, Prepared $prepared, ?array $rows = null, int $width = 1): array
    {
        $lists = $width > 1 && $model instanceof TellsClasses ? $model->shares($prepared->table, $rows) : [$model->predict($prepared->table, $rows)];
        $answers = [];
        foreach ($lists[0] ?? [] as $i => $_) {
            $out = isset($prepared->out[$rows[$i] ?? $i]);
            foreach ($lists as $list) {
                $answers[] = $out ? \NAN : $list[$i];
            }
        }

        return $answers;
    }

    /**
     * @param Table $table as given by select(), or the raw table it was trained on
     *
     * @return list<float> one per row; of several classes the chances of all, row after row
     */
    public function answers(Table $table): array
    {
        return self::answersOf($this->model, $this->preparation->apply($table), null, AboutLearner::MORE === $this->task && $this->model instanceof TellsClasses ? \count($this->model->classes()) : 1);
    }

    /**
     * Chances of every class, for a model of several.
     *
     * @param Table $selected as given by select()
     *
     * @return array<string, list<float>> by class, one per row; NAN where the model cannot answer
     */
    public function shares(Table $selected): array
    {
        if (!$this->model instanceof TellsClasses) {
            return [];
        }
        $prepared = $this->preparation->apply($selected);
        $out = [];
        foreach ($this->model->shares($prepared->table) as $class => $own) {
            foreach (array_keys($prepared->out) as $row) {
                $own[$row] = \NAN;
            }
            $out[$this->model->classes()[$class]] = array_values($own);
        }

        return $out;
    }

    /**
     * @param Table $selected as given by select()
     *
     * @return list<array{chance: ?float, why: ?string, reasons: string}> why: the reason when a record cannot be scored
     */
    public function score(Table $selected, bool $reasons = true): array
    {
        $prepared = $this->preparation->apply($selected);
        $lines = [];
        $tree = $reasons && $this->model instanceof TreeModel ? $this->model : null;
        $leaves = $tree?->leaves($prepared->table) ?? [];
        $paths = null === $tree ? [] : TreeReading::sentences($tree);
        foreach (self::answersOf($this->model, $prepared) as $row => $chance) {
            if (is_nan($chance)) {
                $lines[] = ['chance' => null, 'why' => 'not scored: '.($prepared->out[$row] ?? $this->whyNot($prepared->table, $row)), 'reasons' => ''];
                continue;
            }
            $lines[] = ['chance' => $chance, 'why' => null, 'reasons' => match (true) {
                null !== $tree => $paths[$leaves[$row]] ?? '',
                $reasons => $this->reasons($prepared->table, $row),
                default => '',
            }];
        }

        return $lines;
    }

    private function reasons(Table $prepared, int $row): string
    {
        if (!$this->model instanceof LogisticModel) {
            return '';
        }
        $contributions = Contributions::of($this->model, $prepared, $row);

        return null === $contributions ? '' : Contributions::sentence($contributions['columns']);
    }

    private function whyNot(Table $prepared, int $row): string
    {
        $missing = array_filter($this->model->columns(), static fn (string $c) => $prepared->column($c)->isMissing($row));

        return implode(', ', $missing).' missing';
    }

    /**
     * Values that training never saw, said before anything is scored.
     *
     * @return list<array{column: string, values: list<string>, rows: int}>
     */
    public function unseen(Table $selected): array
    {
        if (!$this->model instanceof LogisticModel) {
            return [];
        }
        $prepared = $this->preparation->apply($selected)->table;
        $out = [];
        foreach ($this->model->coding->levels as $name => $known) {
            $name = (string) $name;
            $column = $prepared->column($name);
            if (!$column instanceof CodedColumn) {
                continue;
            }
            $values = [];
            $rows = 0;
            foreach ($column->counts() as $code => $count) {
                if ($count > 0 && !\in_array($column->levels[$code], $known, true) && !\in_array($column->levels[$code], $this->model->coding->rare[$name] ?? [], true)) {
                    $values[] = $column->levels[$code];
                    $rows += $count;
                }
            }
            if ($rows > 0) {
                $out[] = ['column' => $name, 'values' => $values, 'rows' => $rows];
            }
        }

        return $out;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'schema' => self::SCHEMA,
            'target' => $this->target,
            'event' => $this->event,
            'asked' => array_map(static fn (Kind $k) => $k->value, $this->asked),
            'preparation' => $this->preparation->toArray(),
            'model' => $this->model->toArray(),
            'baseRate' => $this->baseRate,
            'task' => $this->task,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        if (self::SCHEMA !== ($data['schema'] ?? null)) {
            throw new \UnexpectedValueException(\sprintf('This is not a model of the form %s.', self::SCHEMA));
        }

        /** @var array{target: string, event: string, asked: array<string, string>, preparation: list<array<string, mixed>>, model: array<string, mixed>, baseRate: float, task?: string} $data */
        return new self(
            $data['target'],
            $data['event'],
            array_map(static fn (string $k) => Kind::from($k), $data['asked']),
            FittedPreparation::fromArray($data['preparation']),
            Learners::read($data['model']),
            (float) $data['baseRate'],
            $data['task'] ?? AboutLearner::TWO,
        );
    }
}
