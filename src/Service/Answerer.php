<?php

declare(strict_types=1);

namespace App\Service;

use App\Approval\Approval;
use Dokimos\Core\Decide\Players;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Confidence;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** Answers records as callers write them: columns by name, in JSON. It needs no kernel and no session. */
final class Answerer
{
    /** Records in one call. */
    public const MOST = 1000;
    /** Reasons take longer: so many records may ask for them in one call. */
    public const MOST_REASONS = 50;
    private const SHOWN_REASONS = 5;

    private readonly ScoringModel $model;
    private ?Reasoning $reasoning = null;
    /** @var array<array-key, array<int, int>> of the last call: records by column and class of value */
    public array $counts = [];

    /** @param \Closure(): Because $because read only where reasons are asked for */
    public function __construct(private readonly Package $package, private readonly \Closure $because)
    {
        $this->model = $package->scoring();
    }

    /**
     * @param array<mixed> $records
     *
     * @return list<array<string, mixed>> one answer a record; where none is given, why under "refused"
     *
     * @throws NotAnswered where the call as a whole cannot be read
     */
    public function all(array $records, bool $because): array
    {
        $most = $because ? self::MOST_REASONS : self::MOST;
        if (\count($records) > $most) {
            throw new NotAnswered(
                \sprintf(
                    'At most %s records are answered in one call%s; these are %s.',
                    number_format($most),
                    $because ? ' that asks for reasons' : '',
                    number_format(\count($records)),
                ),
            );
        }
        $told = $good = [];
        foreach (array_values($records) as $i => $record) {
            try {
                $told[$i] = $this->remarks($record);
                /** @var array<array-key, mixed> $record */
                $good[$i] = $record;
            } catch (NotAnswered $e) {
                $told[$i] = $e->getMessage();
            }
        }
        $table = $this->table(array_values($good));
        $this->counts = $this->package->bins->counts($table);
        $lines = $this->model->score($table, false);
        $out = [];
        $row = 0;
        foreach ($told as $i => $remarks) {
            if (\is_string($remarks)) {
                $out[] = ['refused' => $remarks, 'version' => $this->package->version];
                continue;
            }
            $out[] = $this->answer($good[$i], $lines[$row], $remarks, $because ? $table->take([$row]) : null);
            ++$row;
        }

        return $out;
    }

    /**
     * @return list<string> what is unusual in it: its answer is of low confidence
     *
     * @throws NotAnswered
     */
    private function remarks(mixed $record): array
    {
        if (!\is_array($record) || ([] !== $record && array_is_list($record))) {
            throw new NotAnswered('A record is an object: columns by their names.');
        }
        $says = [];
        $asked = array_map(strval(...), array_keys($this->model->asked));
        $missing = array_values(array_diff($asked, array_map(strval(...), array_keys($record))));
        $unknown = array_values(array_diff(array_map(strval(...), array_keys($record)), $this->package->known));
        if ([] !== $missing) {
            $says[] = \sprintf('%s %s not given.', implode(', ', $missing), 1 === \count($missing) ? 'was' : 'were');
        }
        if ([] !== $unknown) {
            $says[] = \sprintf(
                '%s %s not known.',
                implode(', ', array_map(static fn (string $n): string => mb_strimwidth($n, 0, 60, '…'), \array_slice($unknown, 0, 5))),
                1 === \count($unknown) ? 'is' : 'are',
            );
        }
        if ([] !== $says && Approval::REFUSE === $this->package->rule) {
            throw new NotAnswered(implode(' ', $says).' Give a column that has no value as null.');
        }
        foreach ($asked as $name) {
            $value = $record[$name] ?? null;
            if (null !== $value && !\is_scalar($value)) {
                throw new NotAnswered(\sprintf('%s is neither a number nor a text.', $name));
            }
            $beyond = null === $value ? null : $this->beyond($name, $value);
            if (null !== $beyond) {
                $says[] = $beyond;
            }
        }

        return $says;
    }

    private function beyond(string $name, float|int|string|bool $value): ?string
    {
        $kind = $this->model->asked[$name];
        if (Kind::Number === $kind) {
            $number = self::number($value);
            if (is_nan($number)) {
                throw new NotAnswered(
                    \sprintf('%s is to be a number; "%s" is none.', $name, mb_strimwidth(self::text($value), 0, 40, '…')),
                );
            }
            [$least, $most] = $this->package->ranges[$name] ?? [-\INF, \INF];

            return $number < $least || $number > $most ? \sprintf(
                '%s %s is beyond %s to %s, which training had.',
                $name,
                NumberColumn::write($number),
                NumberColumn::write($least),
                NumberColumn::write($most),
            ) : null;
        }
        if (Kind::Date === $kind && null === (new CellParser())->date(self::text($value))) {
            throw new NotAnswered(
                \sprintf('%s is to be a date such as 2026-03-17; "%s" is none.', $name, mb_strimwidth(self::text($value), 0, 40, '…')),
            );
        }
        $came = $this->model->came[$name] ?? null;
        $text = self::text($value);
        if (null === $came || \in_array($text, $came, true) || (Kind::YesNo === $kind && null !== CellParser::yesNo($text))) {
            return null;
        }

        return \sprintf('%s "%s" was never seen in training.', $name, mb_strimwidth($text, 0, 40, '…'));
    }

    private static function text(float|int|string|bool $value): string
    {
        return \is_bool($value) ? ($value ? 'yes' : 'no') : (\is_float($value) ? NumberColumn::write($value) : (string) $value);
    }

    private static function number(float|int|string|bool $value): float
    {
        return \is_string($value) ? (new CellParser())->number($value) ?? \NAN : (\is_bool($value) ? \NAN : (float) $value);
    }

    /** @param list<array<array-key, mixed>> $records */
    private function table(array $records): Table
    {
        $columns = [];
        foreach ($this->model->asked as $name => $kind) {
            $cells = array_map(static function (array $r) use ($name): float|int|string|bool|null {
                $v = $r[$name] ?? null;

                return \is_scalar($v) && '' !== $v ? $v : null;
            }, $records);
            $columns[$name] = self::column($kind, $cells);
        }
        $table = Table::of($columns, \count($records));

        return $this->model->select($table, $this->model->byName());
    }

    /** @param list<float|int|string|bool|null> $cells */
    private static function column(Kind $kind, array $cells): Column
    {
        $parser = new CellParser();
        if (Kind::Number === $kind) {
            return new NumberColumn(
                array_map(static fn (float|int|string|bool|null $v): float => null === $v ? \NAN : self::number($v), $cells),
            );
        }
        if (Kind::Date === $kind) {
            return new DateColumn(array_map(
                static fn (float|int|string|bool|null $v): int => null === $v
                    ? DateColumn::MISSING
                    : $parser->date(self::text($v)) ?? DateColumn::MISSING,
                $cells,
            ));
        }
        $texts = array_map(static fn (float|int|string|bool|null $v): ?string => null === $v ? null : self::text($v), $cells);

        return \in_array(
            $kind,
            [Kind::Text, Kind::Identifier],
            true,
        ) ? new TextColumn($texts, $kind) : CodedColumn::fromCells($texts, $kind);
    }

    /**
     * @param array<array-key, mixed>                                                                                      $record
     * @param array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string} $line
     * @param list<string>                                                                                                 $remarks
     * @param ?Table                                                                                                       $own     where
     *                                                                                                                              reasons
     *                                                                                                                              are
     *                                                                                                                              asked
     *                                                                                                                              for
     *
     * @return array<string, mixed>
     */
    private function answer(array $record, array $line, array $remarks, ?Table $own): array
    {
        $key = $this->package->key;
        $out = null !== $key && isset($record[$key]) ? [$key => $record[$key]] : [];
        if (null !== $line['why']) {
            return $out + ['refused' => ucfirst($line['why']).'.', 'version' => $this->package->version];
        }
        $sure = $this->package->sure;
        if (Task::TWO === $this->model->task) {
            $chance = (float) $line['chance'];
            $told = $sure->ofChance($chance);
            $out += [
                'chance' => $chance,
                'chance_low' => $told['interval']->low ?? null,
                'chance_high' => $told['interval']->high ?? null,
                'call' => CutOff::at($this->package->cutoff)->calls($chance),
            ];
        } elseif (Task::MORE === $this->model->task) {
            $shares = $line['shares'] ?? [];
            $out += [
                'class' => $line['class'] ?? null,
                'chances' => array_combine($this->model->classes(), $shares),
                'set_90' => $sure->ofClasses($shares),
            ];
        } else {
            $number = (float) ($line['number'] ?? \NAN);
            $interval = $sure->ofNumber($number, 80);
            $out += ['predicted' => $number, 'low_80' => $interval[0] ?? null, 'high_80' => $interval[1] ?? null];
        }
        $out['confidence'] = Confidence::of($sure, $this->model->task, $line, [] !== $remarks)->value;
        if ([] !== $remarks) {
            $out['remarks'] = $remarks;
        }
        if (null !== $own) {
            $out['because'] = $this->because($own);
        }

        return $out + ['version' => $this->package->version];
    }

    /** @return list<array{column: string, value: string|null, points: float}> of a chance in points of 100, of a number in its unit */
    private function because(Table $own): array
    {
        $class = Task::MORE === $this->model->task ? $this->model->answers($own)->likeliest(0) : null;
        $this->reasoning ??= ($this->because)()->reasoning($this->model);
        $told = $this->reasoning->account($own, $class);
        $lines = [];
        $times = Task::NUMBER === $this->model->task ? 1.0 : 100.0;
        foreach ($told->players ?? [] as $j => $names) {
            $values = array_map(static fn (string $n): ?string => $own->column($n)->text(0), $names);
            $lines[] = [
                'column' => Players::named($names),
                'value' => 1 === \count($values) ? $values[0] : implode(
                    ' and ',
                    array_map(static fn (?string $v): string => $v ?? 'missing', $values),
                ),
                'points' => round($times * ($told->values[$j] ?? 0.0), 4),
            ];
        }
        usort($lines, static fn (array $a, array $b): int => abs($b['points']) <=> abs($a['points']) ?: strcmp($a['column'], $b['column']));

        return \array_slice($lines, 0, self::SHOWN_REASONS);
    }
}
