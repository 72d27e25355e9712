<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Approval\Approval;
use App\Approval\Approvals;
use App\Decision\Decision;
use App\Finding\Findings;
use App\Judgment\Judgments;
use App\Judgment\Section\ClassSection;
use App\Judgment\Section\EventSection;
use App\Judgment\Section\FigureLine;
use App\Judgment\Section\NumberSection;
use App\Logbook\LogEntry;
use App\Preparation\Variants;
use App\Question\Question;
use App\Question\Questions;
use App\Reasons\Matters;
use App\Recheck\Rechecked;
use App\Recheck\Rechecks;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\FigureView;
use App\Trial\StandingsView;
use App\Trial\Trial;
use App\Trial\Trials;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Document;
use Dokimos\Core\Dossier\Drawing;
use Dokimos\Core\Dossier\Section;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\ColumnUse;

/** Writes the dossier of a study from the documents that its screens show: no figure is computed for it. */
final readonly class DossierWriter
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Questions $questions,
        private Findings $findings,
        private Variants $variants,
        private Trials $trials,
        private Judgments $judgments,
        private Matters $matters,
        private Approvals $approvals,
        private Rechecks $rechecks,
    ) {
    }

    /** @return list<Section> all there is to tell, in order; the first is the short form */
    public function sections(Study $study): array
    {
        $question = $this->questions->of($study);
        $table = $question->table();
        $standings = null === $table || null === $question->target() ? null : $this->trials->standings($study);
        $leader = $this->leader($standings);
        $sections = [$this->short($study, $question, $standings, $leader)];
        if (null !== $table) {
            array_push($sections, $this->question($study, $question, $table), $this->table($table), $this->preparation($study));
        }
        if (null !== $standings && [] !== $standings->trials) {
            $sections[] = $this->tried($standings);
        }
        if (null !== $leader && null !== $standings) {
            array_push($sections, $this->judgment($leader, $question), $this->reasons($leader));
        }
        array_push(
            $sections,
            $this->decisions($study),
            $this->rechecked($study),
            $this->approved($study),
            $this->methods($question, $table, $leader),
            $this->logbook($study),
        );

        return $sections;
    }

    /**
     * @param list<Section>                                                                   $sections all there are
     * @param list<string>                                                                    $off
     * @param list<array{section: string, text: string, print: bool, by: string, at: string}> $comments
     */
    public function document(Study $study, array $sections, array $off, bool $short, array $comments = []): Document
    {
        $kept = $short ? \array_slice($sections, 0, 1) : array_values(array_filter(
            $sections,
            static fn (Section $s): bool => !\in_array($s->key, $off, true),
        ));
        $printed = [];
        foreach ($comments as $comment) {
            if ($comment['print']) {
                $printed[] = ['section' => $comment['section'], 'by' => $comment['by'], 'text' => $comment['text']];
            }
        }
        $last = $this->entities->getRepository(LogEntry::class)->findOneBy(['study' => $study], ['id' => 'DESC']);
        $as = null === $last ? '' : ', as of '.$last->at()->format('j M Y');

        return new Document(
            $study->name(),
            \sprintf('%s%s', '' === $study->question() ? 'A study' : $study->question(), $as),
            $kept,
            $printed,
        );
    }

    private function leader(?StandingsView $standings): ?Trial
    {
        $id = $standings?->finalists->strongest ?? ($standings?->trials[0] ?? null)?->id;
        $trial = null === $id ? null : $this->entities->find(Trial::class, $id);

        return null !== $trial && $trial->isDone() ? $trial : null;
    }

    private function short(Study $study, Question $question, ?StandingsView $standings, ?Trial $leader): Section
    {
        $table = $question->table();
        if (null === $leader || null === $standings || null === $table) {
            return new Section('short', 'In short', 'Nothing is decided yet', [
                Block::text(null === $table ? 'No table has been imported.' : 'No trial has been fitted.'),
            ]);
        }
        $view = TrialView::of($leader);
        $figure = $standings->measure;
        $blocks = [
            Block::text(\sprintf(
                'Predicted is *%s* for each record of %s, by %s columns known when the decision is made. %s.',
                null === $question->event() ? (string) $question->target() : \sprintf(
                    'whether %s is %s',
                    $question->target(),
                    $question->event(),
                ),
                $table->name(),
                number_format($view->columns),
                $this->split($question, $table),
            )),
            Block::text(\sprintf(
                '*%s* (trial %d) leads: %s %s on rows it had not learned from%s. %s',
                $view->title,
                $view->number,
                $figure->name,
                self::bounded($figure, $view->value, $view->low, $view->high),
                null === $standings->baseline ? '' : \sprintf('; doing nothing scores %s', self::said($figure, $standings->baseline)),
                $standings->measureSays,
            )),
        ];
        $event = $this->section($leader, EventSection::class);
        if ($event instanceof EventSection && [] !== $event->tenths) {
            $blocks[] = $this->caught($event);
        }
        if (null === $leader->opening()) {
            $blocks[] = Block::text(
                'The seal is closed: these figures come from the folds the trial was chosen by, and the examination on sealed rows is still to come.',
            );
        }
        $recheck = array_values(
            array_filter($this->rechecks->of($study), static fn (Rechecked $r): bool => '' !== $r->verdict()),
        )[0] ?? null;
        $approval = array_values(array_filter($this->approvals->of($study), static fn (Approval $a): bool => $a->isInForce()))[0] ?? null;
        $blocks[] = Block::text(null === $approval
            ? 'No model is approved for use; whatever is scored is *a draft*.'
            : \sprintf(
                '*%s* approved trial %s: %s It is not to be used for: %s',
                $approval->by(),
                (string) $approval->trial()?->number(),
                self::ended($approval->sentence()),
                self::ended($approval->limits()),
            ));
        if (null !== $recheck) {
            $blocks[] = Block::text(
                \sprintf(
                    'On newer records (%s) it is *%s*. %s',
                    $recheck->table()->name(),
                    $recheck->verdict(),
                    self::listed($recheck->told()['reasons'] ?? []),
                ),
            );
        }
        $title = null !== $event && $event instanceof EventSection && [] !== $event->tenths && null !== ($event->tenths[2]->caught ?? null)
            ? \sprintf('Acting on 3 of 10 reaches %.0f of 100', 100 * $event->tenths[2]->caught)
            : \sprintf('%s %s', $figure->name, self::said($figure, $view->value));

        return new Section('short', 'In short', $title, $blocks);
    }

    /** Shares of events reached when the highest chances are acted on first. */
    private function caught(EventSection $event): Block
    {
        $points = [[0.0, 0.0]];
        $rows = 0;
        foreach ($event->tenths as $tenth) {
            $rows += $tenth->rows;
            if (null !== $tenth->caught) {
                $points[] = [$rows / max(1, $event->rows - $event->unanswered), $tenth->caught];
            }
        }
        $third = $event->tenths[2]->caught ?? null;

        return Block::picture(
            \sprintf(
                'Of all events, %s are among the 30 of 100 records with the highest chances; at random it would be 30 %%.',
                null === $third ? '–' : self::share($third),
            ),
            Drawing::lines(
                ['the model' => $points, 'at random' => [[0.0, 0.0], [1.0, 1.0]]],
                [0.0, 1.0],
                [0.0, 1.0],
                'share of records acted on, highest chance first',
                '',
            ),
        );
    }

    private function question(Study $study, Question $question, DataTable $table): Section
    {
        $plan = $question->plan();

        return new Section('question', 'The question', '' === $study->question() ? $study->name() : $study->question(), [
            Block::text(\sprintf(
                'Predicted is *%s*%s, from %s.',
                $question->target() ?? 'nothing yet',
                null === $question->event() ? '' : \sprintf(' being "%s"', $question->event()),
                $table->name(),
            )),
            Block::text($this->split($question, $table).'.'),
            Block::text(null === $plan ? 'No split plan was made.' : \sprintf(
                'Each trial was fitted %d times (%d folds, %d %s), by seed %d%s.',
                $plan->folds * $plan->repeats,
                $plan->folds,
                $plan->repeats,
                1 === $plan->repeats ? 'round' : 'rounds',
                $plan->seed,
                null === $plan->column ? '' : ', divided by '.$plan->column,
            )),
        ]);
    }

    private function split(Question $question, DataTable $table): string
    {
        $sealed = $question->sealedCount();

        return \sprintf(
            'Of %s records %s were learned from and judged in folds, %s were sealed%s',
            number_format($table->rows()),
            number_format($table->rows() - $sealed),
            number_format($sealed),
            0 === $sealed ? '' : ($question->isSealOpened() ? ' until the end' : ' and still are'),
        );
    }

    private function table(DataTable $table): Section
    {
        $found = $this->findings->of($table);
        $uses = [];
        foreach ($table->columns() as $column) {
            $uses[$column->use()->value] = ($uses[$column->use()->value] ?? 0) + 1;
        }
        $blocks = [
            Block::text(\sprintf(
                '%s has *%s records and %d columns*: %s. It was read from %s.',
                $table->name(),
                number_format($table->rows()),
                \count($table->columns()),
                implode(', ', array_map(static fn (string $use, int $n): string => $n.' '.$use, array_keys($uses), $uses)),
                $table->fileName(),
            )),
            Block::table('Columns', ['Column', 'Kind', 'Use', 'Missing'], array_map(static fn (TableColumn $c): array => [
                $c->name(),
                $c->kind()->value,
                $c->use()->value.(ColumnUse::Input === $c->use() && !$c->isKnown() ? ', known afterwards' : ''),
                self::share(($c->profile()['missing'] ?? 0) / max(1, $table->rows())),
            ], $table->columns())),
        ];
        $blocks[] = [] === $found->findings ? Block::text('Nothing was found that deserves a decision.') : Block::table(
            \sprintf('What was found, and what became of it (%d)', \count($found->findings)),
            ['Finding', 'Said of it'],
            array_map(
                static fn ($f): array => [$f->sentence, null === $f->dismissed ? 'open' : 'settled: '.$f->dismissed->reason],
                \array_slice($found->findings, 0, 40),
            ),
        );
        $open = \count(array_filter($found->findings, static fn ($f): bool => null === $f->dismissed));

        return new Section(
            'table',
            'The table',
            \sprintf('%s records, %d findings, %d of them open', number_format($table->rows()), \count($found->findings), $open),
            $blocks,
        );
    }

    private function preparation(Study $study): Section
    {
        $blocks = [];
        $variants = $this->variants->of($study);
        foreach ($variants as $variant) {
            $view = $this->variants->view($variant, $variant->steps());
            $blocks[] = Block::text(\sprintf(
                '*Variant %s, %s*: %s of %s records and %d of %d columns are left; cells missing before %s, after %s.',
                $variant->letter(),
                $variant->name(),
                number_format($view->rowsAfter),
                number_format($view->rowsBefore),
                $view->columnsAfter,
                $view->columnsBefore,
                number_format($view->missingBefore),
                number_format($view->missingAfter),
            ));
            if ([] !== $view->steps) {
                $blocks[] = Block::table('Steps, each with its toll', [
                    'Step',
                    'Records',
                    'Columns',
                    'Missing cells',
                ], array_map(static fn ($s): array => [
                    ($s->off ? '(off) ' : '').($s->sentence ?? $s->problem ?? $s->step).('' === $s->note ? '' : ' '.$s->note),
                    null === $s->toll ? '' : self::change($s->toll->rowsAfter - $s->toll->rowsBefore),
                    null === $s->toll ? '' : self::change($s->toll->columnsAfter - $s->toll->columnsBefore),
                    null === $s->toll ? '' : self::change($s->toll->missingAfter - $s->toll->missingBefore),
                ], $view->steps));
            }
        }

        return new Section(
            'preparation',
            'Preparation',
            1 === \count($variants) ? 'One variant' : \count($variants).' variants side by side',
            $blocks,
        );
    }

    private function tried(StandingsView $standings): Section
    {
        $figure = $standings->measure;
        $done = array_values(array_filter($standings->trials, static fn (TrialView $t): bool => null !== $t->value));
        $blocks = [Block::text(\sprintf(
            '*%s made; %s. %s',
            1 === \count($standings->trials) ? 'One trial* was' : \count($standings->trials).' trials* were',
            0 === $standings->sealOpenings ? 'the seal was never opened' : \sprintf(
                'the seal was opened %d %s',
                $standings->sealOpenings,
                1 === $standings->sealOpenings ? 'time' : 'times',
            ),
            null === $standings->luck ? '' : \sprintf(
                'Of the leader\'s figure %s is luck of being chosen.',
                self::said($figure, $standings->luck),
            ),
        ))];
        $blocks[] = Block::picture(
            \sprintf('%s of each trial with its interval of 95 %%; the dashed line is doing nothing.', $figure->name),
            Drawing::intervals(
                array_map(
                    static fn (TrialView $t): array => [$t->number.' '.$t->title, $t->value, $t->low, $t->high],
                    \array_slice($done, 0, 20),
                ),
                $figure->name,
                $standings->baseline,
            ),
        );
        $blocks[] = Block::table('All trials, hidden ones too', [
            'No.',
            'Trial',
            $figure->name,
            'Settings other than usual',
            'To read',
        ], array_map(static fn (TrialView $t): array => [
            (string) $t->number,
            $t->title.(null === $t->variantLetter ? '' : ' on '.$t->variantLetter).([] === $t->stale ? '' : ', stale'),
            self::bounded($figure, $t->value, $t->low, $t->high),
            implode('; ', $t->settings),
            $t->size,
        ], $standings->trials));
        $f = $standings->finalists;
        $name = static fn (?int $id): string => array_values(
            array_filter($standings->trials, static fn (TrialView $t): bool => $t->id === $id),
        )[0]->title ?? 'none';
        $blocks[] = Block::text(\sprintf(
            'Finalists: *%s* is the strongest, *%s* the clearest of at most %d leaves, rules or terms.%s',
            $name($f->strongest),
            $name($f->clearest),
            $f->reading,
            null === $f->price ? '' : \sprintf(' The price of clarity is %s.', self::bounded($figure, $f->price, $f->low, $f->high)),
        ));

        return new Section(
            'trials',
            'Trials',
            1 === \count($standings->trials) ? 'One trial' : \sprintf('%d trials, and why these two', \count($standings->trials)),
            $blocks,
        );
    }

    /** @param class-string $kind */
    private function section(Trial $trial, string $kind): ?object
    {
        foreach ($this->judgments->of($trial)->sections as $section) {
            if ($section instanceof $kind) {
                return $section;
            }
        }

        return null;
    }

    private function judgment(Trial $trial, Question $question): Section
    {
        $view = $this->judgments->of($trial);
        $blocks = [];
        foreach ($view->sections as $section) {
            if ($section instanceof EventSection || $section instanceof NumberSection || $section instanceof ClassSection) {
                $blocks[] = Block::table('Every figure with its interval of 95 %', [
                    'Figure',
                    'Validation',
                    'Doing nothing',
                    'Sealed',
                    'What it means',
                ], array_map(static fn (FigureLine $l): array => [
                    $l->figure->name,
                    self::bounded($l->figure, $l->interval->value, $l->interval->low, $l->interval->high),
                    self::said($l->figure, $l->baseline),
                    null === $l->sealed ? 'sealed' : self::bounded($l->figure, $l->sealed->value, $l->sealed->low, $l->sealed->high),
                    $l->says,
                ], $section->figures));
            }
            if ($section instanceof EventSection) {
                $blocks[] = $this->caught($section);
                $bins = array_map(static fn ($c): array => [$c->mean, $c->rate], $section->calibration);
                if ([] !== $bins) {
                    $top = max(0.1, ...array_merge(...$bins));
                    $blocks[] = Block::picture(
                        'Chances given, beside what came: on the dotted line they hold.',
                        Drawing::lines(['what came' => $bins], [0.0, $top], [0.0, $top], 'chance given', '', true),
                    );
                }
            }
        }
        foreach ($view->notes as $note) {
            $blocks[] = Block::text($note);
        }
        $figure = FigureView::of($question->figureOf($trial->line()->task));

        return new Section(
            'judgment',
            'Judgment',
            \sprintf(
                'Trial %d, %s: %s %s',
                $view->trial->number,
                $view->trial->title,
                $figure->name,
                self::bounded($figure, $view->trial->value, $view->trial->low, $view->trial->high),
            ),
            $blocks,
        );
    }

    private function reasons(Trial $trial): Section
    {
        $view = $this->matters->of($trial, null);
        if ([] === $view->columns) {
            return new Section(
                'reasons',
                'Reasons',
                'What matters was not asked yet',
                [Block::text('Open Reasons, and the dossier tells what the trial goes by.')],
            );
        }
        $most = \array_slice($view->columns, 0, 15);

        return new Section('reasons', 'Reasons', \sprintf('%s matters most', $view->columns[0]->column), [
            Block::text(
                \sprintf(
                    '%d of %d columns carry what can be told from noise. A column that goes with %s need not bring it about: these are effects in the model.',
                    $view->carry,
                    \count($view->columns),
                    $view->event,
                ),
            ),
            Block::picture(
                'What the ranking figure loses when a column is shuffled, with its interval.',
                Drawing::intervals(
                    array_map(static fn ($c): array => [$c->column, $c->lost, $c->low, $c->high], $most),
                    'lost when shuffled',
                    0.0,
                ),
            ),
            Block::table('What each column does', ['Column', 'Lost when shuffled', 'Which way'], array_map(static fn ($c): array => [
                $c->column,
                null === $c->lost ? '–' : \sprintf('%.4f', $c->lost).(null === $c->low || null === $c->high ? '' : \sprintf(' (%.4f to %.4f)', $c->low, $c->high)),
                $c->goes,
            ], $most)),
        ]);
    }

    private function decisions(Study $study): Section
    {
        /** @var list<Decision> $all */
        $all = $this->entities->createQuery(
            'SELECT d FROM App\Decision\Decision d JOIN d.scoring s WHERE s.study = :study ORDER BY d.id',
        )->setParameter('study', $study->id())->getResult();
        if ([] === $all) {
            return new Section('decisions', 'Decisions', 'No list was made', [Block::text('No records were scored into a list yet.')]);
        }

        return new Section('decisions', 'Decisions', 1 === \count($all) ? 'One list' : \count($all).' lists', [Block::table(
            'Lists, with the terms they were made on',
            ['List', 'Of', 'Trial', 'Terms'],
            array_map(static fn (Decision $d): array => [
                $d->name(),
                $d->scoring()->table()->name(),
                (string) $d->scoring()->trial()->number(),
                self::terms($d->terms()),
            ], $all),
        )]);
    }

    private static function terms(object $terms): string
    {
        $said = [];
        foreach (get_object_vars($terms) as $name => $value) {
            if ((\is_int($value) || \is_float($value) || \is_string($value)) && '' !== $value) {
                $said[] = strtolower((string) preg_replace('/([A-Z])/', ' $1', $name)).' '.$value;
            }
        }

        return implode('; ', $said);
    }

    private function rechecked(Study $study): Section
    {
        $all = array_values(array_filter($this->rechecks->of($study), static fn (Rechecked $r): bool => '' !== $r->verdict()));
        if ([] === $all) {
            return new Section(
                'recheck',
                'Recheck',
                'Not rechecked on newer records',
                [Block::text('No newer records have put the model to the test yet.')],
            );
        }
        $blocks = [];
        foreach ($all as $recheck) {
            $told = $recheck->told();
            $blocks[] = Block::text(
                \sprintf(
                    'On %s, trial %d: *%s*. %s',
                    $recheck->table()->name(),
                    $recheck->trial()->number(),
                    $recheck->verdict(),
                    self::listed($told['reasons'] ?? []),
                ),
            );
            /** @var list<array{name: string, then: array<string, ?float>, now: array<string, ?float>, p: ?float, says: string}> $figures */
            $figures = \is_array($told['figures'] ?? null) ? $told['figures'] : [];
            $plain = static fn (array $i): string => null === $i['value'] ? '–' : \sprintf('%.4g', $i['value']).(null === $i['low'] || null === $i['high'] ? '' : \sprintf(' (%.4g to %.4g)', $i['low'], $i['high']));
            $blocks[] = Block::table('Figures then and now', [
                'Figure',
                'Then',
                'Now',
                'p',
                'Verdict',
            ], array_map(static fn (array $f): array => [
                $f['name'], $plain($f['then']), $plain($f['now']), null === $f['p'] ? '–' : \sprintf('%.3f', $f['p']), $f['says'],
            ], $figures));
        }

        return new Section('recheck', 'Recheck', ucfirst($all[0]->verdict()), $blocks);
    }

    private function approved(Study $study): Section
    {
        $all = $this->approvals->of($study);
        if ([] === $all) {
            return new Section(
                'approvals',
                'Approvals',
                'Nobody has approved a model',
                [Block::text('Whatever is scored until then is a draft.')],
            );
        }
        $blocks = [];
        foreach ($all as $a) {
            $withdrawn = $a->withdrawn();
            $blocks[] = Block::text(\sprintf(
                '*No. %d*, trial %s, by %s on %s: %s Not for: %s To be looked at again on %s.%s',
                $a->number(),
                (string) $a->trial()?->number(),
                $a->by(),
                $a->createdAt()->format('j M Y'),
                self::ended($a->sentence()),
                self::ended($a->limits()),
                $a->again()->format('j M Y'),
                null === $withdrawn ? '' : ' *Withdrawn*: '.self::ended(self::word($withdrawn['why'] ?? '')),
            ));
            $risk = $a->evidence()['atRisk'] ?? [];
            if (\is_array($risk) && [] !== $risk) {
                $blocks[] = Block::table('Groups at the cut-off of the approval, intervals adjusted for all groups', [
                    'Group',
                    'Records',
                    'Caught',
                    'Called in vain',
                    'Chances off',
                    'Said',
                ], array_map(static function (mixed $g): array {
                    $g = \is_array($g) ? $g : [];
                    $of = static fn (string $k): string => \is_array($g[$k] ?? null) && is_numeric($g[$k]['value'] ?? null) ? \sprintf('%.1f (%.1f to %.1f)', 100 * $g[$k]['value'], 100 * (float) ($g[$k]['low'] ?? 0), 100 * (float) ($g[$k]['high'] ?? 0)) : '–';

                    return [
                        self::word($g['by'] ?? '').' '.self::word($g['group'] ?? $g['label'] ?? ''),
                        self::word($g['rows'] ?? ''),
                        $of('caught'),
                        $of('vain'),
                        $of('off'),
                        self::listed($g['says'] ?? []),
                    ];
                }, array_values(\array_slice($risk, 0, 40))));
            }
        }

        return new Section('approvals', 'Approvals', \sprintf('%d, each with its evidence', \count($all)), $blocks);
    }

    private function methods(Question $question, ?DataTable $table, ?Trial $leader): Section
    {
        $rows = [['Version', \PHP_VERSION.' (PHP)']];
        if (null !== $table) {
            $rows[] = ['Fingerprint of the table', $table->fingerprint()];
        }
        if (null !== $question->plan()) {
            $rows[] = ['Split plan', (string) json_encode($question->plan()->toArray())];
        }
        if (null !== $leader) {
            $rows[] = ['Learner', Learners::title($leader->learner())];
            $rows[] = ['Settings', (string) json_encode($leader->settings())];
            $rows[] = ['Preparation', implode(' ', array_map(static fn (array $s): string => (string) json_encode($s), $leader->steps()))];
            foreach ($leader->ancestry() as $part => $print) {
                $rows[] = ['Made of: '.$part, $print];
            }
        }

        return new Section('methods', 'Methods', 'Settings, seeds and fingerprints', [
            Block::text('Every figure is defined with its formula and source in docs/methods; the same seed gives the same bytes.'),
            Block::table('What would have to be the same to do it again', ['What', 'Is'], $rows),
        ]);
    }

    private function logbook(Study $study): Section
    {
        $entries = $this->entities->getRepository(LogEntry::class)->findBy(['study' => $study], ['id' => 'ASC'], 400);

        return new Section('logbook', 'Logbook', \sprintf(
            '%d entries',
            \count($entries),
        ), [Block::table('', ['When', 'Who', 'What'], array_map(static fn (LogEntry $e): array => [
            $e->at()->format('j M Y H:i'), $e->user()?->name() ?? '', $e->sentence(),
        ], $entries))]);
    }

    private static function word(mixed $v): string
    {
        return \is_scalar($v) ? (string) $v : '';
    }

    private static function listed(mixed $v): string
    {
        return \is_array($v) ? implode(' ', array_map(self::word(...), $v)) : self::word($v);
    }

    private static function ended(string $sentence): string
    {
        return rtrim($sentence, '.').'.';
    }

    private static function change(int $n): string
    {
        return 0 === $n ? '0' : ($n > 0 ? '+' : '−').number_format(abs($n));
    }

    private static function share(float $v): string
    {
        return \sprintf('%.1f %%', 100 * $v);
    }

    private static function said(FigureView $f, ?float $v): string
    {
        return match (true) {
            null === $v => '–',
            $f->inShare => self::share($v),
            $f->inUnits => (string) (float) \sprintf('%.4g', $v),
            default => \sprintf('%.3f', $v),
        };
    }

    private static function bounded(FigureView $f, ?float $v, ?float $low, ?float $high): string
    {
        return self::said($f, $v).(null === $low || null === $high ? '' : \sprintf(
            ' (%s to %s)',
            self::said($f, $low),
            self::said($f, $high),
        ));
    }
}
