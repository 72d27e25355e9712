<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Preparation\Variant;
use App\Question\Ground;
use App\Question\Questions;
use App\Study\Study;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Design\Coding;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Task\Task;

/** Starts trials and lists them. */
final readonly class Trials
{
    /** Rows to learn from, at least. */
    private const FEWEST = 100;
    /** What a worker takes before it reads anything. */
    private const PROCESS = 70 << 20;
    /** Lists of the length of the table: outcomes, rows, folds. */
    private const LISTS = 16;
    /** Seconds that the Standings may take to compare trials row by row. */
    private const AT_ONCE = 0.1;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs, private Ground $ground, private Distances $distances, private int $workerMegabytes, private Questions $questions)
    {
    }

    /** @param array<string, mixed> $settings */
    public function start(Study $study, User $user, Variant $variant, string $learner, array $settings, ?int $part = null): Job
    {
        if ($variant->study() !== $study) {
            throw Problem::notFound('variant');
        }
        $this->ground->target($study);
        $plan = $this->questions->of($study)->plan() ?? throw new Problem(409, 'Choose the target first.');
        $learner = '' === $learner ? Learners::usual($this->questions->of($study)->task()) : $learner;
        Learners::make($learner, $settings);
        if (!\in_array($this->questions->of($study)->task(), Learners::tasks($learner), true)) {
            throw new Problem(409, \sprintf('%s does not predict what this study asks for: %s.', Learners::title($learner), Task::NUMBER === $this->questions->of($study)->task() ? 'a number' : $this->questions->of($study)->task()));
        }
        if (null !== $part && $part < self::FEWEST) {
            throw Problem::invalid(\sprintf('A part of the rows is %s or more.', number_format(self::FEWEST)), 'rows');
        }
        Preparation::fromArray($variant->steps());
        $inputs = $this->ground->inputs($study);
        if ([] === $inputs && Learners::needsColumns($learner)) {
            throw new Problem(409, 'No column is left as an input that is known when the decision is made.');
        }
        $this->refuseWhatCannotFit($study, $inputs, \count($this->ground->needed($study, $variant->steps(), $inputs)), $learner, $part);
        if (null !== ($weight = $this->ground->weight($study)) && 0.0 === array_sum($this->ground->weights($study, $this->ground->openRows($study, $this->ground->outcome($study))) ?? [])) {
            throw new Problem(409, \sprintf('No open row has a weight above 0 in %s, so none would count. Give that column another use.', $weight->name()));
        }

        // Two that begin at once get two numbers.
        return $this->entities->getConnection()->transactional(function () use ($study, $user, $variant, $learner, $settings, $inputs, $plan, $part): Job {
            $last = $this->entities->createQuery('SELECT MAX(t.number) FROM App\Trial\Trial t WHERE t.question = :question')->setParameter('question', $study->id())->getSingleScalarResult();
            $number = 1 + (int) (is_numeric($last) ? $last : 0);
            $steps = array_values(array_filter($variant->steps(), static fn (array $s) => true !== ($s['off'] ?? false)));
            $trial = new Trial($this->questions->of($study), $number, $variant, $learner, $settings, $steps, $inputs, Ancestry::of($this->questions->of($study), $variant->steps(), $inputs, $learner), $part);
            $this->entities->persist($trial);
            $this->entities->flush();
            $job = $this->jobs->start($study, $user, TrialRunner::KIND, $trial->id(), \sprintf('Trial %d, %s', $number, mb_strtolower(Learners::title($learner))), Jobs::LONG, TrialRunner::pieces($plan));
            $this->entities->flush();

            return $job;
        });
    }

    /**
     * Said before it starts: work that needs more memory than a worker has would end it.
     *
     * @param list<string> $inputs
     */
    private function refuseWhatCannotFit(Study $study, array $inputs, int $columns, string $learner, ?int $part): void
    {
        $need = self::memory($this->ground->table($study), $inputs, $columns, $this->questions->seal($study)->count(), Learners::card($learner), \count($this->questions->of($study)->classes() ?? []), $part);
        if ($need > ($this->workerMegabytes << 20)) {
            throw new Problem(409, \sprintf('This trial would need about %.1f GB; a worker has %.1f. Set columns aside, above all categories with many values, or learn from a part of the rows.', $need / 2 ** 30, ($this->workerMegabytes << 20) / 2 ** 30));
        }
    }

    /**
     * Bytes that a worker takes for a fit: what it takes anyway, the columns read, rows and outcomes in several lists, and what the learner's
     * card says.
     *
     * @param list<string> $inputs
     * @param int          $columns that are read: inputs, and what the steps need
     */
    private static function memory(DataTable $table, array $inputs, int $columns, int $sealed, Card $card, int $classes, ?int $part): float
    {
        $terms = 0;
        foreach ($table->columns() as $column) {
            if (\in_array($column->name(), $inputs, true)) {
                $distinct = $column->profile()['distinct'] ?? 0;
                $terms += $column->kind()->isCoded() ? min(Coding::MOST_LEVELS, \is_int($distinct) ? $distinct : 0) : 1;
            }
        }
        $open = $table->rows() - $sealed;

        return self::PROCESS + 16.0 * ($open * $columns + self::LISTS * $table->rows()) + $card->bytes(min($open, $part ?? $open), \count($inputs), $terms, $classes > 2 ? $classes : 0);
    }

    /** Works out how the trials stand to each other, so that whoever opens the Standings finds it there. */
    public function compare(Study $study, Progress $progress): void
    {
        $ranked = $this->of($study);
        foreach (\array_slice($ranked, 1) as $trial) {
            $progress->report(1.0, 'compared with the others');
            $this->distances->of($study, [$ranked[0], $trial]);
        }
        $this->distances->luck($study, $ranked);
    }

    /** @return list<Trial> best first, then those without figures, then those of another question */
    public function of(Study $study): array
    {
        $measure = Figures::ranking($this->questions->of($study)->task());
        $trials = $this->entities->getRepository(Trial::class)->findBy(['question' => $study->id()], ['number' => 'ASC']);
        $value = fn (Trial $trial): ?float => $trial->line()->task === $this->questions->of($study)->task() ? $trial->line()->value : null;
        usort($trials, static fn (Trial $a, Trial $b) => $measure->order($value($a), $value($b)) ?: $a->number() <=> $b->number());

        return $trials;
    }

    /** How many trials of the study have a figure of what it asks now. */
    public function comparable(Study $study): int
    {
        return \count(array_filter($this->of($study), fn (Trial $t): bool => null !== $t->line()->value && $t->line()->task === $this->questions->of($study)->task()));
    }

    public function standings(Study $study): StandingsView
    {
        $ranked = $this->of($study);
        $trials = array_map(TrialView::of(...), $ranked);
        $measure = Figures::ranking($this->questions->of($study)->task());
        $rate = $baseline = null;
        foreach ($ranked as $i => $trial) {
            if ($trials[$i]->task === $this->questions->of($study)->task()) {
                $rate ??= $trial->line()->baseRate;
                $baseline ??= $trials[$i]->baseline;
            }
        }

        return new StandingsView($trials, $this->questions->of($study)->task(), FigureView::of($measure), $measure->title, $measure->says, $baseline, $rate, $this->distances->of($study, $ranked, self::AT_ONCE), $this->questions->of($study)->plan()->folds ?? 0, $this->questions->of($study)->plan()->repeats ?? 0, $this->questions->seal($study)->count(), \count(array_filter($trials, static fn (TrialView $t) => $t->sealOpened)), $this->distances->luck($study, $ranked, false));
    }
}
