<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Writes a model in a form, has it run by somebody else on a sample, and hands both out together. */
final readonly class TakeAway
{
    /**
     * @param ?\PDO $postgres a database that runs the form for PostgreSQL; without one that form is run by SQLite in SQLite's spelling
     * @param ?int  $longest  bytes of a query, from which on trees are written as tables of nodes; what the database reads where null
     */
    public function __construct(private OnnxReader $onnx, private ?\PDO $postgres = null, private ?int $longest = null)
    {
    }

    /**
     * @param Table $real records to prove it on, as the model's select() gives them
     *
     * @return array{string, Proof} the bytes, and the proof
     *
     * @throws CannotExpress where it cannot be written in this form, or was not found to answer the same
     */
    public function of(ScoringModel $model, Form $form, Table $real): array
    {
        $program = Program::of($model);
        $sample = Sample::of($program, $real);
        $wanted = $model->answers($model->select($sample->records, $model->byName()));
        [$bytes, $by, $found] = match ($form) {
            Form::Json => $this->json($program, $sample),
            Form::Onnx => $this->onnx($program, $sample),
            Form::Card => $this->card($model, $sample),
            default => $this->sql($program, $sample, Form::PostgreSql === $form ? Dialect::PostgreSql : Dialect::Sqlite),
        };
        $proof = Proof::of($by, $wanted, $found, $sample, $form->within());

        return $proof->holds() ? [$bytes, $proof] : throw new CannotExpress($proof->sentence().' It is not handed out.');
    }

    /** @return array{string, string, list<list<?float>>} */
    private function json(Program $program, Sample $sample): array
    {
        $bytes = json_encode(
            $program,
            \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
        );
        /** @var array<string, mixed> $plain */
        $plain = json_decode($bytes, true, 4096, \JSON_THROW_ON_ERROR);
        $reader = new Reader($plain);
        $found = [];
        for ($row = 0; $row < $sample->records->rows; ++$row) {
            $found[] = $reader->answers($sample->record($row));
        }

        return [$bytes, 'a reader that knows the schema alone', $found];
    }

    /** @return array{string, string, list<list<?float>>} */
    private function card(ScoringModel $model, Sample $sample): array
    {
        [$card] = RuleCard::of($model);
        $reader = new CardReader($card);
        $prepared = $model->preparation->apply($model->select($sample->records, $model->byName()));
        $found = [];
        for ($row = 0; $row < $sample->records->rows; ++$row) {
            $record = [];
            foreach ($prepared->table->columns() as $name => $column) {
                $record[$name] = Sample::cell($column, $row);
            }
            $found[] = isset($prepared->out[$row]) ? array_fill(0, max(1, \count($model->classes())), null) : $reader->answers($record);
        }

        return [$card, 'a reader that follows its text', $found];
    }

    /** @return array{string, string, list<list<?float>>} */
    private function onnx(Program $program, Sample $sample): array
    {
        if (!$this->onnx->isThere()) {
            throw new CannotExpress(
                'The runtime that reads ONNX models before they are handed out is not installed: npm ci in tools/onnx.',
            );
        }
        $bytes = Onnx::of($program);
        $inputs = [];
        foreach ($program->inputs as $name => $kind) {
            $isText = Frame::isText($kind);
            $values = [];
            for ($row = 0; $row < $sample->records->rows; ++$row) {
                $values[] = $sample->record($row)[$name] ?? null;
            }
            $inputs[$name] = ['type' => $isText ? 'string' : 'double', 'values' => $values];
        }
        $answers = $this->onnx->answers($bytes, $inputs);
        $found = [];
        for ($row = 0; $row < $sample->records->rows; ++$row) {
            $found[] = array_map(static fn (array $own): ?float => $own[$row] ?? null, array_values($answers));
        }

        return [$bytes, 'an independent ONNX runtime', $found];
    }

    /** @return array{string, string, list<list<?float>>} */
    private function sql(Program $program, Sample $sample, Dialect $dialect): array
    {
        $run = Dialect::PostgreSql === $dialect && null === $this->postgres ? Dialect::Sqlite : $dialect;
        $bytes = $this->statement($program, $dialect);
        $script = Script::of($program, $run, self::values($program, $sample, $run), ['dokimos_place'], longest: $this->longest);
        $pdo = Dialect::PostgreSql === $run && null !== $this->postgres ? $this->postgres : new \PDO('sqlite::memory:');
        $pdo->setAttribute(\PDO::ATTR_ERRMODE, \PDO::ERRMODE_EXCEPTION);
        $script->run($pdo);
        $answer = $pdo->query($script->query.' ORDER BY 1');
        $found = [];
        foreach (false === $answer ? [] : $answer->fetchAll(\PDO::FETCH_NUM) as $line) {
            /** @var list<float|int|string|null> $line */
            $found[] = array_map(static fn (float|int|string|null $v): ?float => null === $v ? null : (float) $v, \array_slice($line, 1));
        }
        $by = Dialect::PostgreSql === $run ? 'PostgreSQL' : 'SQLite';

        return [$bytes, $run === $dialect ? $by : 'SQLite, in its spelling since no PostgreSQL is connected,', $found];
    }

    /** The statement with its head: where the records come from is to be put in. */
    private function statement(Program $program, Dialect $dialect): string
    {
        $script = Script::of($program, $dialect, 'my_records', longest: $this->longest);
        $walked = [] === $script->before ? '' : ' Its trees are rows of two tables, which go when the session ends: '
            .'as cases they would be longer than the database reads.';

        return \sprintf(
            "-- Predicts %s for each record of the table my_records, which has these columns:\n-- %s.\n-- Written for %s. %s%s\n%s",
            $program->target,
            implode(', ', array_map(static fn (int|string $n): string => (string) $n, array_keys($program->inputs))),
            $dialect->value,
            Dialect::PostgreSql === $dialect
                ? 'Run it with SET jit = off: compiling so many cases takes longer than they do.'
                : 'Texts are told apart as they are written.',
            $walked,
            $script->text(),
        );
    }

    private static function values(Program $program, Sample $sample, Dialect $dialect): string
    {
        $rows = [];
        for ($row = 0; $row < $sample->records->rows; ++$row) {
            $cells = [(string) $row];
            foreach ($program->inputs as $name => $kind) {
                $cell = $sample->records->column((string) $name);
                $cells[] = null === $cell->text($row) ? ($dialect->missing(true)) : $dialect->text(match (true) {
                    $cell instanceof NumberColumn => \sprintf('%.17G', $cell->values[$row]),
                    default => (string) $cell->text($row),
                });
            }
            $rows[] = '('.implode(', ', $cells).')';
        }
        $names = implode(
            ', ',
            ['dokimos_place', ...array_map(static fn (int|string $n): string => $dialect->name((string) $n), array_keys($program->inputs))],
        );
        $head = Dialect::PostgreSql === $dialect ? '' : 'SELECT NULL AS '.str_replace(', ', ', NULL AS ', $names).' WHERE 0 UNION ALL ';

        return Dialect::PostgreSql === $dialect
            ? '(VALUES '.implode(",\n", $rows).') AS records ('.$names.')'
            : '('.$head.'VALUES '.implode(",\n", $rows).')';
    }
}
