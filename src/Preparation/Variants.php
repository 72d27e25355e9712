<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Storage\Store;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Prepare\Advice;
use Dokimos\Core\Prepare\BinsLook;
use Dokimos\Core\Prepare\CannotPrepare;
use Dokimos\Core\Prepare\FittedBins;
use Dokimos\Core\Prepare\LearnedLook;
use Dokimos\Core\Prepare\Learning;
use Dokimos\Core\Prepare\Lesson;
use Dokimos\Core\Prepare\Look;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Prepare\Steps;
use Dokimos\Core\Prepare\Toll;
use Dokimos\Core\Prepare\Treatments;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Task\Events;

/** Preparation variants and what each of their steps costs. */
final readonly class Variants
{
    /** Above so many rows tolls are counted on a sample, so that an answer comes at once. */
    private const EXACT_ROWS = 131072;
    /** Other orders are computed up to so many rows: each takes as long as the steps themselves. */
    private const ADVISED_ROWS = 40000;
    private const LEVELS_OFFERED = 60;

    public function __construct(
        private EntityManagerInterface $entities,
        private OpenCells $reader,
        private Ground $ground,
        private Logbook $logbook,
        private CountedTolls $counted,
        private Questions $questions,
        private Store $store,
    ) {
    }

    /** @return list<Variant> the study's variants; a first empty one is made when there is none */
    public function of(Study $study): array
    {
        $variants = $this->entities->getRepository(Variant::class)->findBy(['study' => $study], ['letter' => 'ASC']);
        if ([] === $variants) {
            $first = new Variant($study, 'A', 'First');
            $this->entities->persist($first);
            $this->entities->flush();
            $variants = [$first];
        }

        return $variants;
    }

    /** @param ?list<array<string, mixed>> $steps to begin with, instead of another variant's */
    public function create(Study $study, User $user, ?string $name, ?Variant $from, ?array $steps = null): Variant
    {
        // Two that are begun at once get two letters.
        return $this->entities->getConnection()->transactional(function () use ($study, $user, $name, $from, $steps): Variant {
            $this->store->alone('variants', $study->id());
            $letters = array_map(static fn (Variant $v) => $v->letter(), $this->of($study));
            $free = array_values(array_diff(range('A', 'Z'), $letters));
            $letter = $free[0] ?? throw new Problem(409, 'A study holds at most 26 variants.');
            $variant = new Variant($study, (string) $letter, $name ?? 'Another');
            $variant->changeSteps(null === $steps ? $from?->steps() ?? [] : array_map(self::clean(...), $steps));
            $this->entities->persist($variant);
            $this->logbook->write(
                $study,
                $user,
                'preparation',
                \sprintf('Variant %s, %s, begun%s.', $variant->letter(), $variant->name(), null === $from ? '' : ' from '.$from->letter()),
            );
            $this->entities->flush();

            return $variant;
        });
    }

    /** @param list<array<string, mixed>> $steps */
    public function change(Variant $variant, User $user, ?string $name, ?array $steps): VariantView
    {
        if (null !== $name && $name !== $variant->name()) {
            $variant->rename($name);
        }
        $view = null;
        if (null !== $steps) {
            $clean = array_map(self::clean(...), $steps);
            $before = $variant->hash();
            $variant->changeSteps($clean);
            $view = $this->view($variant, $clean);
            if ($before !== $variant->hash()) {
                $this->logbook->write(
                    $variant->study(),
                    $user,
                    'preparation',
                    \sprintf(
                        'Variant %s now has %d steps: %s columns and %s missing cells are left of %s and %s.%s',
                        $variant->letter(),
                        \count($clean),
                        number_format($view->columnsAfter),
                        number_format($view->missingAfter),
                        number_format($view->columnsBefore),
                        number_format($view->missingBefore),
                        null === $view->problem ? '' : ' '.$view->problem,
                    ),
                );
            }
        }
        $this->entities->flush();

        // What was counted for the logbook holds: only the version has changed since.
        return $view?->saidAgain($variant, $variant->steps()) ?? $this->view($variant, $variant->steps());
    }

    /** Trials keep the variant that they were made with, and a study always has one. */
    public function discard(Variant $variant, User $user): void
    {
        $study = $variant->study();
        if (0 < (int) $this->entities->createQuery('SELECT COUNT(t.id) FROM App\Trial\Trial t WHERE t.variant = :variant')->setParameter('variant', $variant)->getSingleScalarResult()) {
            throw new Problem(409, \sprintf('Variant %s has trials, which keep it. Nothing was discarded.', $variant->letter()));
        }
        if (1 === \count($this->of($study))) {
            throw new Problem(409, 'This is the only variant of the study. Nothing was discarded.');
        }
        $this->logbook->write(
            $study,
            $user,
            'preparation',
            \sprintf('Variant %s, %s, discarded with its %d steps.', $variant->letter(), $variant->name(), \count($variant->steps())),
        );
        $this->entities->remove($variant);
        $this->entities->flush();
    }

    /**
     * Checks a step's settings and keeps only what belongs to it.
     *
     * @param array<string, mixed> $step
     *
     * @return array<string, mixed>
     */
    private static function clean(array $step): array
    {
        $note = $step['note'] ?? '';

        return Steps::fromSettings($step)->toArray() + array_filter([
            'note' => \is_string($note) ? mb_substr($note, 0, 500) : '',
            'off' => true === ($step['off'] ?? false),
        ]);
    }

    /**
     * The tolls of steps, learned on the unsealed rows; nothing is stored.
     *
     * @param list<array<string, mixed>> $steps
     * @param ?int                       $look  the step to look at closely
     */
    public function view(Variant $variant, array $steps, ?int $look = null): VariantView
    {
        $exact = $this->counted->kept($variant->study(), $steps)?->saidAgain($variant, $steps);
        if (null !== $exact && null === $look) {
            return $exact;
        }
        $view = $this->viewOn($this->ground($variant->study()), $variant, $steps, $look);

        return null === $exact ? $view : $exact->looking($view->look);
    }

    /**
     * Counts the tolls in all rows of a large table, for a worker; they are kept for a day while nothing they depend on changes.
     *
     * @param list<array<string, mixed>> $steps
     */
    public function countAll(Variant $variant, array $steps, Progress $progress): void
    {
        if (null === $this->counted->kept($variant->study(), $steps)) {
            $this->counted->keep(
                $variant->study(),
                $steps,
                $this->viewOn($this->ground($variant->study(), null), $variant, $steps, null, $progress),
            );
        }
    }

    /** @param list<array<string, mixed>> $steps */
    private function viewOn(StepsGround $ground, Variant $variant, array $steps, ?int $look, ?Progress $progress = null): VariantView
    {
        [$table, $factor, $training, $event] = [$ground->table, $ground->factor, $ground->training, $ground->event];
        $whole = (new Toll(
            $table->rows,
            $table->rows,
            \count($table->columns()),
            \count($table->columns()),
            $table->missing(),
            $table->missing(),
        ))->scaled($factor);
        $now = new Learning($table, $training, $event);
        $views = [];
        $problem = $close = null;
        foreach ($steps as $i => $data) {
            $before = $now;
            $toll = $sentence = $own = null;
            try {
                $step = Steps::fromSettings($data);
                if (true !== ($data['off'] ?? false)) {
                    $now = $now->after($step);
                    $toll = $now->tolls[\count($now->tolls) - 1]->scaled($factor);
                    $sentence = $now->steps[\count($now->steps) - 1]->sentence().($factor > 1.0 ? ' Counted in the sample.' : '');
                }
            } catch (CannotPrepare $e) {
                $own = $e->getMessage();
                $problem ??= \sprintf('Step %d cannot be done: %s', $i + 1, $own);
            }
            $progress?->report(($i + 1) / \count($steps));
            if ($i === $look) {
                $close = $this->look(
                    $data,
                    $before,
                    $now,
                    new Lesson($before->learned->table, $before->rows(), $event, $before->learned->out),
                    $factor,
                );
            }
            $views[] = new StepView(
                \is_string($data['step'] ?? null) ? $data['step'] : '',
                array_diff_key($data, ['step' => 1, 'note' => 1, 'off' => 1]),
                true === ($data['off'] ?? false),
                \is_string($data['note'] ?? null) ? $data['note'] : '',
                $sentence,
                $toll,
                $own,
            );
        }
        $left = array_values(array_filter($this->candidatesIn($now->learned, $factor), static fn (CandidateView $c) => $c->missing > 0));
        $times = static fn (int $n): int => (int) round($factor * $n);

        return new VariantView(
            $variant->id(),
            $variant->version(),
            $variant->letter(),
            $variant->name(),
            $whole->rowsBefore,
            $whole->columnsBefore,
            $whole->missingBefore,
            $times($now->learned->rows()),
            \count($now->learned->table->columns()),
            $times($now->learned->missing()),
            $times($now->learned->complete($this->noInputs($variant->study()))),
            $views,
            $left,
            $problem,
            $factor > 1.0,
            $close,
            null === $problem && $table->rows <= self::ADVISED_ROWS ? Advice::of($steps, $table, $training, $event) : [],
        );
    }

    /** @param ?int $most of larger tables a sample of so many rows; all rows when null */
    public function ground(Study $study, ?int $most = self::EXACT_ROWS): StepsGround
    {
        $source = $this->ground->table($study);
        $question = $this->questions->of($study);
        $target = null === $question->event() ? [] : array_filter([$question->target()], static fn (?string $t): bool => null !== $t && null !== $source->column($t));
        [$cells, $numbers] = $this->reader->sample($source, [...$this->ground->candidates($study), ...$target], $most ?? \PHP_INT_MAX);
        $sealed = $this->questions->seal($study)->set();
        // Sealed outcomes are not learned from either once the seal was opened.
        $event = [] === $target ? null : array_map(
            static fn (int $row, float $y): float => isset($sealed[$row]) ? \NAN : $y,
            $numbers,
            Events::in($cells->column(reset($target)), (string) $question->event()),
        );
        $table = $cells->without($target);

        return new StepsGround(
            $table,
            $table->rows > 0 ? $source->rows() / $table->rows : 1.0,
            array_keys(array_filter($numbers, static fn (int $r): bool => !isset($sealed[$r]))),
            $event,
        );
    }

    /**
     * Steps learned one after the other; one that cannot be done is passed over and said.
     *
     * @param list<array<string, mixed>> $steps
     *
     * @return array{Learning, ?string}
     */
    public function learn(StepsGround $ground, array $steps): array
    {
        $learning = new Learning($ground->table, $ground->training, $ground->event);
        $problem = null;
        foreach ($steps as $i => $step) {
            try {
                $learning = true === ($step['off'] ?? false) ? $learning : $learning->after(Steps::fromSettings($step));
            } catch (CannotPrepare $e) {
                $problem ??= \sprintf('Step %d cannot be done: %s', $i + 1, $e->getMessage());
            }
        }

        return [$learning, $problem];
    }

    /** @param array<string, mixed> $data */
    private function look(array $data, Learning $before, Learning $after, Lesson $lesson, float $factor): LookView
    {
        $fitted = \count($after->steps) > \count($before->steps) ? $after->steps[\count($after->steps) - 1] : null;
        $bins = null;
        if ($fitted instanceof FittedBins && 1 === \count($fitted->cuts)) {
            $name = (string) array_key_first($fitted->cuts);
            $bins = BinsLook::of($lesson, $name, $fitted->cuts[$name]);
        }

        return new LookView(
            $this->candidatesIn($before->learned, $factor),
            null === $fitted ? null : Look::between($before->learned, $after->learned),
            $bins,
            $this->ways($data, $lesson),
            null === $fitted ? null : LearnedLook::of($fitted, $lesson),
        );
    }

    /**
     * @param array<string, mixed> $data settings of a step
     *
     * @return list<Treatments>
     */
    private function ways(array $data, Lesson $lesson): array
    {
        $columns = \is_array($data['columns'] ?? null) ? array_values($data['columns']) : [];
        $name = $columns[0] ?? null;
        $group = $data['group'] ?? '';
        if (!\in_array(
            $data['step'] ?? '',
            ['fill_missing', 'drop_rows'],
            true,
        ) || 1 !== \count($columns) || !\is_string($name) || $lesson->table->rows > self::ADVISED_ROWS) {
            return [];
        }

        return Treatments::of($lesson, $name, \is_string($group) ? $group : '');
    }

    /** @return list<string> columns that preparation works on and no learner sees */
    private function noInputs(Study $study): array
    {
        return array_values(array_diff($this->ground->candidates($study), $this->ground->inputs($study)));
    }

    /** @return list<CandidateView> */
    private function candidatesIn(Prepared $prepared, float $factor): array
    {
        $out = [];
        foreach ($prepared->table->columns() as $name => $column) {
            $missing = $column->missing();
            foreach (0 === $missing ? [] : array_keys($prepared->out) as $row) {
                $missing -= $column->isMissing($row) ? 1 : 0;
            }
            $out[] = new CandidateView(
                (string) $name,
                $column->kind()->value,
                (int) round($factor * $missing),
                $column instanceof CodedColumn ? \array_slice($column->levels, 0, self::LEVELS_OFFERED) : [],
            );
        }

        return $out;
    }

    /** @return list<CandidateView> what the steps may name, before the first of them */
    public function candidates(Study $study): array
    {
        $names = $this->ground->candidates($study);
        $out = [];
        foreach ($this->ground->table($study)->columns() as $column) {
            if (\in_array($column->name(), $names, true)) {
                $missing = $column->profile()['missing'] ?? 0;
                $out[] = new CandidateView($column->name(), $column->kind()->value, \is_int($missing) ? $missing : 0, []);
            }
        }

        return $out;
    }
}
