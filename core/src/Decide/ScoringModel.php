<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Explain\RecordReasons;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Learn\AnswersInPart;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\TakesShift;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\Grove;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/** A fitted model with the preparation it was fitted on: everything needed to score a new record. */
final readonly class ScoringModel
{
    public const SCHEMA = 'dokimos-model/1';

    /**
     * @param array<string, Kind>            $asked      the raw columns it needs, with their kinds at training
     * @param array<array-key, list<string>> $came       values that raw categories had at training
     * @param array<array-key, list<string>> $seen       values that prepared categories had at training
     * @param ?BroughtBack                   $back       what its chances are moved by, where classes were made to count the same
     * @param ?Calibrated                    $calibrated what its chances are held against last
     */
    public function __construct(
        public string $target,
        public string $event,
        public array $asked,
        public FittedPreparation $preparation,
        public Model $model,
        public float $baseRate,
        public string $task = Task::TWO,
        public array $came = [],
        private array $seen = [],
        public ?BroughtBack $back = null,
        public ?Calibrated $calibrated = null,
    ) {
    }

    /**
     * Only the raw columns that the steps or the model read.
     *
     * @param Table $raw the table it was trained on, before preparation
     */
    public static function trained(string $target, string $event, Table $raw, FittedPreparation $preparation, Model $model, float $baseRate, string $task = Task::TWO, ?BroughtBack $back = null): self
    {
        if (null !== $back && Task::TWO === $task && $model instanceof TakesShift) {
            [$model, $back] = [$model->shifted($back->shifts[0], $back->slope), null];
        }
        $needed = $preparation->asks($model->columns());
        $asked = [];
        foreach ($raw->names() as $name) {
            if (\in_array($name, $needed, true)) {
                $asked[$name] = $raw->column($name)->kind();
            }
        }

        $rows = $preparation->rows;
        $learned = $preparation->learned->table ?? $raw;

        return new self($target, $event, $asked, $preparation, $model, $baseRate, $task, self::values($raw, array_map(strval(...), array_keys($asked)), $rows), self::values($learned, $model->columns(), $rows), $back);
    }

    /**
     * @param list<string> $names
     * @param list<int>    $rows
     *
     * @return array<array-key, list<string>> the values of categories in the rows
     */
    private static function values(Table $table, array $names, array $rows): array
    {
        $values = [];
        foreach ($names as $name) {
            $column = $table->has($name) ? $table->column($name) : null;
            if ($column instanceof CodedColumn) {
                $counts = $column->counts($rows);
                $values[$name] = array_values(array_filter($column->levels, static fn (int $code): bool => $counts[$code] > 0, \ARRAY_FILTER_USE_KEY));
            }
        }

        return $values;
    }

    /**
     * Values written otherwise than at training, and the known one that each is read as: yes/no in any spelling, texts that differ in
     * letter case or blanks alone.
     *
     * @param array<string, string> $match asked => found
     *
     * @return array<array-key, array<array-key, string>> by asked column: written => read as
     */
    public function spellings(Table $table, array $match): array
    {
        $out = [];
        foreach ($this->came as $name => $known) {
            $name = (string) $name;
            $found = $match[$name] ?? null;
            $column = null !== $found && $table->has($found) ? Conversion::to($table->column($found), $this->asked[$name]) : null;
            if (!$column instanceof CodedColumn) {
                continue;
            }
            $alike = $yesNo = [];
            foreach ($known as $level) {
                $alike[self::plain($level)] ??= $level;
                $means = Kind::YesNo === $this->asked[$name] ? CellParser::yesNo($level) : null;
                if (null !== $means) {
                    $yesNo[(int) $means] = $level;
                }
            }
            foreach ($column->levels as $level) {
                $means = [] === $yesNo ? null : CellParser::yesNo($level);
                $as = $alike[self::plain($level)] ?? (null === $means ? null : $yesNo[(int) $means] ?? null);
                if (null !== $as && !\in_array($level, $known, true)) {
                    $out[$name][$level] = $as;
                }
            }
        }

        return $out;
    }

    private static function plain(string $value): string
    {
        return mb_strtolower(trim((string) preg_replace('/\s+/u', ' ', $value)));
    }

    /** @param array<array-key, string> $as written => read as */
    private static function respelled(Column $column, array $as): Column
    {
        if (!$column instanceof CodedColumn || [] === $as) {
            return $column;
        }
        $places = $of = $levels = [];
        foreach ($column->levels as $code => $level) {
            $read = $as[$level] ?? $level;
            if (!isset($places[$read])) {
                $places[$read] = \count($levels);
                $levels[] = $read;
            }
            $of[$code] = $places[$read];
        }

        return new CodedColumn(array_map(static fn (int $code): int => $of[$code] ?? -1, $column->codes), $levels, $column->kind());
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
        $spellings = $this->spellings($table, $match);
        foreach ($this->asked as $name => $kind) {
            $found = $match[$name] ?? null;
            $columns[$name] = null !== $found && $table->has($found) ? self::respelled(Conversion::to($table->column($found), $kind), $spellings[$name] ?? []) : Conversion::missing($kind, $table->rows);
        }

        return Table::of($columns, $table->rows);
    }

    /**
     * Answers for prepared rows; NAN where a value is missing that the model needs, and where a step has taken the row out.
     *
     * @param ?list<int> $rows  all rows when null
     * @param int        $width numbers of an answer
     */
    public static function answersOf(Model $model, Prepared $prepared, ?array $rows = null, int $width = 1): Answers
    {
        $lists = $width > 1 && $model instanceof TellsClasses ? $model->shares($prepared->table, $rows) : [$model->predict($prepared->table, $rows)];
        $answers = [];
        foreach ($lists[0] ?? [] as $i => $_) {
            $out = isset($prepared->out[$rows[$i] ?? $i]);
            foreach ($lists as $list) {
                $answers[] = $out ? \NAN : $list[$i];
            }
        }

        return new Answers($answers, $width);
    }

    /** @param Table $table as given by select(), or the raw table it was trained on */
    public function answers(Table $table): Answers
    {
        return $this->answersFor($this->preparation->apply($table));
    }

    /** The same for records that are prepared already. */
    public function answersFor(Prepared $prepared): Answers
    {
        return $this->moved(self::answersOf($this->model, $prepared, null, max(1, \count($this->classes()))));
    }

    /**
     * What is said of each record: a chance of the event; of several classes the likeliest with the chances of all; or a number.
     *
     * @param Table $selected as given by select()
     *
     * @return list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> why: the reason when a record cannot be scored
     */
    public function score(Table $selected, bool $reasons = true): array
    {
        $prepared = $this->preparation->apply($selected);
        $classes = $this->classes();
        $width = max(1, \count($classes));
        $answers = $this->moved(self::answersOf($this->model, $prepared, null, $width));
        $told = $reasons ? RecordReasons::of($this->model, $prepared->table) : null;
        $inPart = $reasons && $this->model instanceof AnswersInPart ? $this->model->inPart($prepared->table) : [];
        $lines = [];
        for ($row = 0; $row < $selected->rows; ++$row) {
            $known = $answers->isKnown($row);
            $line = ['chance' => $known && Task::NUMBER !== $this->task ? $answers->first($row) : null];
            if (Task::NUMBER === $this->task) {
                $line['number'] = $known ? $answers->first($row) : null;
            } elseif ([] !== $classes) {
                $line += ['class' => $known ? $classes[$answers->likeliest($row)] : null, 'shares' => $known ? $answers->of($row) : []];
            }
            $lines[] = $line + [
                'why' => $known ? null : 'not scored: '.($prepared->out[$row] ?? $this->whyNot($prepared->table, $row)),
                'reasons' => $known ? trim(($inPart[$row] ?? '').' '.($told?->sentence($row) ?? '')) : '',
            ];
        }

        return $lines;
    }

    /** Whether its answers are those of the learned model: neither calibrated nor moved back to how often classes occur. */
    public function isAsLearned(): bool
    {
        return null === $this->back && null === $this->calibrated;
    }

    /** What it would answer without calibration. */
    public function uncalibrated(): self
    {
        return $this->with(null);
    }

    public function with(?Calibrated $calibrated): self
    {
        return new self(
            $this->target, $this->event, $this->asked, $this->preparation, $this->model, $this->baseRate, $this->task, $this->came, $this->seen,
            $this->back, $calibrated,
        );
    }

    private function moved(Answers $answers): Answers
    {
        $answers = $this->back?->of($answers) ?? $answers;

        return $this->calibrated?->of($answers) ?? $answers;
    }

    /** @return list<string> of several; none for an event or a number */
    public function classes(): array
    {
        return Task::MORE === $this->task && $this->model instanceof TellsClasses ? $this->model->classes() : [];
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
        $prepared = $this->preparation->apply($selected)->table;
        $out = [];
        foreach ($this->seen as $name => $known) {
            $name = (string) $name;
            $column = $prepared->has($name) ? $prepared->column($name) : null;
            if (!$column instanceof CodedColumn) {
                continue;
            }
            $values = [];
            $rows = 0;
            foreach ($column->counts() as $code => $count) {
                if ($count > 0 && !\in_array($column->levels[$code], $known, true)) {
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

    /**
     * What toArray() gives with trees unpacked: larger, and read back in no time.
     *
     * @param array<array-key, mixed> $data
     *
     * @return array<array-key, mixed>
     */
    public static function unpacked(array $data): array
    {
        foreach ($data as $key => $value) {
            if ('grove' === $key && \is_array($value)) {
                /** @var array<string, mixed> $value */
                $data[$key] = Grove::unpacked($value);
            } elseif (\is_array($value)) {
                $data[$key] = self::unpacked($value);
            }
        }

        return $data;
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
            'came' => $this->came,
            'seen' => $this->seen,
            'back' => $this->back?->toArray(),
        ] + (null === $this->calibrated ? [] : ['calibrated' => $this->calibrated->toArray()]);
    }

    /**
     * @param array<string, mixed> $data
     *
     * @throws \UnexpectedValueException this is not a model of the form …
     */
    public static function fromArray(array $data): self
    {
        if (self::SCHEMA !== ($data['schema'] ?? null)) {
            throw new \UnexpectedValueException(\sprintf('This is not a model of the form %s.', self::SCHEMA));
        }

        /** @var array{target: string, event: string, asked: array<string, string>, preparation: list<array<string, mixed>>, model: array<string, mixed>, baseRate: float, task?: string, came?: array<array-key, list<string>>, seen?: array<array-key, list<string>>, calibrated?: array<string, mixed>, back?: ?array{shifts: list<float|int>, slope: float|int}} $data */
        return new self(
            $data['target'],
            $data['event'],
            array_map(static fn (string $k) => Kind::from($k), $data['asked']),
            FittedPreparation::fromArray($data['preparation']),
            Blended::NAME === ($data['model']['learner'] ?? null) ? Blended::fromArray($data['model']) : Learners::read($data['model']),
            (float) $data['baseRate'],
            $data['task'] ?? Task::TWO,
            $data['came'] ?? [],
            $data['seen'] ?? [],
            isset($data['back']) ? BroughtBack::fromArray($data['back']) : null,
            isset($data['calibrated']) ? Calibrated::read($data['calibrated']) : null,
        );
    }
}
