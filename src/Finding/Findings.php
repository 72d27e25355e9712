<?php

declare(strict_types=1);

namespace App\Finding;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Findings\Finder;
use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Findings\Outcome\ClassOutcome;
use Dokimos\Core\Findings\Outcome\EventOutcome;
use Dokimos\Core\Findings\Outcome\NumberOutcome;
use Dokimos\Core\Findings\PlainRule;
use Dokimos\Core\Findings\PlainRules;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\TargetRelations;
use Dokimos\Core\Findings\Thresholds;
use Dokimos\Core\Stamp;
use Dokimos\Core\Task\Task;

/** Looks tables over, keeps what was found while nothing changes, and remembers what was settled. */
final readonly class Findings
{
    /** Records looked at; larger tables are looked at in evenly spread parts. */
    private const LOOKED_AT = 20480;
    /** Raised when what is kept changes its form. */
    private const FORM = 6;

    public function __construct(private EntityManagerInterface $entities, private OpenCells $reader, private Logbook $logbook, private Questions $questions)
    {
    }

    public function of(DataTable $table): FindingsView
    {
        [$stamp, $judged] = $this->stamp($table);
        $document = $this->entities->find(FoundDocument::class, $table->id());
        if (null !== $document && $document->stamp() === $stamp) {
            return $this->view($table, $document->found());
        }
        $found = $this->look($table, $judged);
        // Several may look at once; what they find is the same.
        $this->entities->getConnection()->executeStatement('INSERT INTO finding_document (table_id, stamp, found) VALUES (?, ?, ?) ON CONFLICT (table_id) DO UPDATE SET stamp = excluded.stamp, found = excluded.found', [$table->id(), $stamp, json_encode($found, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION)]);
        null === $document || $this->entities->refresh($document);

        return $this->view($table, $found);
    }

    /** Whether what was found is up to date. */
    public function areKept(DataTable $table): bool
    {
        return $this->entities->find(FoundDocument::class, $table->id())?->stamp() === $this->stamp($table)[0];
    }

    /** @return array{string, bool} what the findings depend on, and whether the target may be looked at */
    private function stamp(DataTable $table): array
    {
        $study = $table->study();
        $judged = $this->questions->of($study)->table() === $table && null !== $this->questions->of($study)->target();

        return [Stamp::of([self::FORM, $this->entities->find(StudyThresholds::class, $study->id())?->changed() ?? [], $table->rows(), array_map(static fn (TableColumn $c) => $c->stamp(), $table->columns()), $this->questions->seal($study)->stamp($table), gmdate('Y-m-d')]), $judged];
    }

    private function thresholds(DataTable $table): Thresholds
    {
        return $this->entities->find(StudyThresholds::class, $table->study()->id())?->thresholds() ?? Thresholds::standard();
    }

    /** @return array<string, mixed> */
    private function look(DataTable $table, bool $judged): array
    {
        $columns = $table->columns();
        [$cells, $numbers] = $this->reader->sample($table, array_map(static fn (TableColumn $c) => $c->name(), $columns), self::LOOKED_AT);
        $uses = $late = $marks = [];
        foreach ($columns as $column) {
            $uses[$column->name()] = $column->use();
            $written = $column->profile()['marks'] ?? null;
            if (\is_array($written)) {
                $marks[$column->name()] = array_filter($written, is_int(...));
            }
            if (!$column->isKnown()) {
                $late[] = $column->name();
            }
        }
        $study = $table->study();
        $event = $outcome = null;
        $target = $judged ? $table->column((string) $this->questions->of($study)->target()) : null;
        if (null !== $target) {
            $all = null === $this->questions->of($study)->event() ? $this->reader->outcome($target, $this->questions->of($study)->classes()) : $this->reader->event($target, $this->questions->of($study)->event());
            // Neither findings nor relations look at the outcomes of sealed rows.
            foreach ($this->questions->seal($study)->rows() as $row) {
                $all[$row] = \NAN;
            }
            $known = array_map(static fn (int $row): float => $all[$row], $numbers);
            $event = null === $this->questions->of($study)->event() ? null : $known;
            $outcome = match (true) {
                null !== $event => new EventOutcome($event),
                null === $this->questions->of($study)->classes() => new NumberOutcome($known),
                default => new ClassOutcome($known, $this->questions->of($study)->classes()),
            };
        }
        $seal = $this->questions->seal($study);
        $hidden = $seal->hiddenColumns($table);
        $sealed = [] === $hidden ? [] : array_fill_keys($seal->rowsIn($table), true);
        $subject = new Subject($cells, $uses, $late, null === $target ? null : $target->name(), $this->questions->of($study)->event(), $event, time(), $hidden, [] === $hidden ? null : array_keys(array_filter($numbers, static fn (int $row) => !isset($sealed[$row]))), $outcome, $marks);
        $known = array_filter($known ?? [], static fn (float $e) => !is_nan($e));

        return [
            'looked' => $cells->rows,
            'judged' => \count($known),
            'findings' => array_map(static fn (Finding $f) => ['key' => $f->key(), 'sort' => $f->sort, 'severity' => $f->severity->value, 'short' => Shorthand::of($f), 'columns' => $f->columns, 'sentence' => $f->sentence, 'rows' => array_map(static fn (int $place) => $numbers[$place] + 1, $f->rows), 'remedies' => $f->remedies], (new Finder($this->thresholds($table)))->of($subject)),
            'relations' => array_map(RelationView::of(...), TargetRelations::of($subject)),
            'rules' => array_map(self::rule(...), PlainRules::of($subject)),
        ];
    }

    /** @return array<string, mixed> */
    private static function rule(PlainRule $r): array
    {
        return ['conditions' => $r->conditions, 'of' => $r->of, 'foundRows' => $r->foundRows, 'found' => $r->found->toArray(), 'checkRows' => $r->checkRows, 'check' => $r->check->toArray(), 'overall' => $r->overall, 'held' => $r->held];
    }

    /** @param array<string, mixed> $found */
    private function view(DataTable $table, array $found): FindingsView
    {
        $settled = [];
        foreach ($this->entities->getRepository(Dismissal::class)->findBy(['table' => $table]) as $d) {
            $settled[$d->key()] = new DismissalView($d->reason(), $d->who(), $d->at()->format(\DATE_ATOM));
        }
        /** @var array{looked: int, judged: int, findings: list<array{key: string, sort: string, severity: string, short: string, columns: list<string>, sentence: string, rows: list<int>, remedies: list<array{do: string, to?: string, step?: array<string, mixed>}>}>, relations: list<mixed>, rules: list<array{conditions: list<array{column: string, is: string}>, of: ?string, foundRows: int, found: array{value: ?float, low: ?float, high: ?float}, checkRows: int, check: array{value: ?float, low: ?float, high: ?float}, overall: float|int, held: bool}>} $data */
        $data = json_decode(json_encode($found, \JSON_THROW_ON_ERROR), true);
        /** @var list<array{column: string, alone: ?float, low: ?float, high: ?float, p: ?float, adjusted: ?float, says: string, lowest: ?float, highest: ?float, late: bool, leftOut: ?string}> $relations */
        $relations = $data['relations'];
        $findings = [];
        foreach ($data['findings'] as $f) {
            $remedies = [];
            foreach ($f['remedies'] as $r) {
                $remedies[] = Shorthand::remedy($r['do'], $r['to'] ?? null, $f['columns'][0] ?? '', $r['step'] ?? null);
            }
            $findings[] = new FindingView($f['key'], $f['sort'], $f['severity'], $f['short'], $f['columns'], $f['sentence'], $f['rows'], $remedies, $settled[$f['key']] ?? null);
        }

        $rules = array_map(fn (array $r) => new RuleView(array_map(static fn (array $c) => new RuleCondition($c['column'], $c['is']), $r['conditions']), $r['of'], $r['foundRows'], $r['found']['value'], $r['found']['low'], $r['found']['high'], $r['checkRows'], $r['check']['value'], $r['check']['low'], $r['check']['high'], (float) $r['overall'], null === $r['check']['value'] || $r['overall'] <= 0 || Task::NUMBER === $this->questions->of($table->study())->task() ? null : $r['check']['value'] / $r['overall'], $r['held']), $data['rules']);

        return new FindingsView($data['looked'], $table->rows(), $findings, array_map(static fn (array $r) => new RelationView($r['column'], $r['alone'], $r['low'], $r['high'], $r['p'], $r['adjusted'], $r['says'], $r['lowest'], $r['highest'], $r['late'], $r['leftOut']), $relations), $rules, $this->questions->of($table->study())->table() === $table ? $this->questions->of($table->study())->target() : null, $this->questions->of($table->study())->event(), $this->questions->of($table->study())->task(), $data['judged']);
    }

    /** Settles a finding with a reason; without one, opens it again. Either is written in the logbook. */
    public function dismiss(DataTable $table, User $user, string $key, ?string $reason): FindingsView
    {
        $view = $this->of($table);
        $about = array_values(array_filter($view->findings, static fn (FindingView $f) => $f->key === $key))[0] ?? throw Problem::notFound('finding');
        $reason = null === $reason ? null : trim($reason);
        if ('' === $reason) {
            throw Problem::invalid('Say why this finding does not matter; the reason is kept in the logbook.', 'reason');
        }
        $dismissal = $this->entities->getRepository(Dismissal::class)->findOneBy(['table' => $table, 'key' => $key]);
        if (null !== $dismissal) {
            $this->entities->remove($dismissal);
            $this->entities->flush();
        }
        if (null !== $reason) {
            $this->entities->persist(new Dismissal($table, $key, $reason, $user));
            $this->logbook->write($table->study(), $user, 'table', \sprintf('Finding settled: %s Reason: %s', $about->sentence, $reason));
        } elseif (null !== $dismissal) {
            $this->logbook->write($table->study(), $user, 'table', \sprintf('Finding opened again: %s', $about->sentence));
        }
        $this->entities->flush();

        return $this->of($table);
    }
}
