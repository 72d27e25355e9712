<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\Questions;
use App\Study\Study;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Design\Coding;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;

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

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private Ground $ground,
        private TrialNumbers $numbers,
        private Distances $distances,
        private int $workerMegabytes,
        private Questions $questions,
        private Logbook $logbook,
        private Finalists $finalists,
        private FurtherFigures $further,
    ) {
    }

    public function start(Study $study, User $user, TrialPlan $plan): Job
    {
        return $this->several($study, $user, [$plan])[0];
    }

    /**
     * All of them or, when one cannot be tried, none.
     *
     * @param non-empty-list<TrialPlan> $plans
     *
     * @return non-empty-list<Job>
     */
    public function several(Study $study, User $user, array $plans): array
    {
        foreach ($plans as $plan) {
            if ($plan->variant->study() !== $study) {
                throw Problem::notFound('variant');
            }
        }
        $this->ground->target($study);
        $split = $this->questions->of($study)->plan() ?? throw new Problem(409, 'Choose the target first.');
        if (null !== ($weight = $this->ground->weight($study)) && 0.0 === array_sum($this->ground->weights(
            $study,
            $this->ground->openRows($study, $this->ground->outcome($study)),
        ) ?? [])) {
            throw new Problem(
                409,
                \sprintf('No open row has a weight above 0 in %s, so none would count. Give that column another use.', $weight->name()),
            );
        }
        array_map(fn (TrialPlan $plan) => $this->check($study, $plan), $plans);

        // Two that begin at once get two numbers.
        return $this->entities->getConnection()->transactional(fn (): array => array_map(
            fn (TrialPlan $plan): Job => $this->begin($study, $user, $plan, $split),
            $plans,
        ));
    }

    /** @throws Problem when it could not be tried */
    public function check(Study $study, TrialPlan $plan): void
    {
        $question = $this->questions->of($study);
        if ($plan->variant->study() !== $study) {
            throw Problem::notFound('variant');
        }
        $learner = $this->learner($study, $plan);
        Learners::make($learner, $plan->settings);
        if (!\in_array($question->task(), Learners::tasks($learner), true)) {
            throw new Problem(
                409,
                \sprintf(
                    '%s does not predict what this study asks for: %s.',
                    Learners::title($learner),
                    Task::NUMBER === $question->task() ? 'a number' : $question->task(),
                ),
            );
        }
        if (null !== $plan->part && $plan->part < self::FEWEST) {
            throw Problem::invalid(\sprintf('A part of the rows is %s or more.', number_format(self::FEWEST)), 'rows');
        }
        if (Way::NONE !== $plan->calibration && Task::NUMBER === $question->task()) {
            throw new Problem(409, 'Chances are calibrated; a number has none.');
        }
        Preparation::fromArray($plan->variant->steps());
        $inputs = $this->ground->inputs($study);
        if ([] === $inputs && Learners::needsColumns($learner)) {
            throw new Problem(409, 'No column is left as an input that is known when the decision is made.');
        }
        $this->refuseWhatCannotFit(
            $study,
            $inputs,
            \count($this->ground->needed($study, $plan->variant->steps(), $inputs)),
            $learner,
            $plan->part,
        );
    }

    /**
     * A trial like another one, that learns from newer records too, or is calibrated on them.
     *
     * @param string $use one of Newer::USES
     */
    public function anew(Trial $trial, User $user, DataTable $table, ?string $by, int $rows, string $use): Job
    {
        if ($trial->isBlend()) {
            throw new Problem(409, 'A blend is weighed, not fitted: fit the trials that it is made of anew.');
        }
        if ([] !== Ancestry::stale($trial)) {
            throw new Problem(409, \sprintf('Trial %d is stale: fit it again first.', $trial->number()));
        }
        $study = $trial->study();
        $question = $this->questions->of($study);
        $plan = $question->plan() ?? throw new Problem(409, 'Choose the target first: what should be predicted?');
        $number = $this->numbers->next($question);
        $anew = new Trial(
            $question,
            $number,
            $trial->variant(),
            $trial->learner(),
            $trial->settings(),
            $trial->steps(),
            $trial->inputs(),
            Ancestry::of($question, $trial->steps(), $trial->inputs(), $trial->learner()),
            null,
            $trial->choice()?->toArray(),
            Newer::CALIBRATE === $use ? Way::NONE : $trial->calibration(),
        );
        $anew->learnFrom(new Newer($table->id(), $by, $rows, $use, $table->name()));
        $this->entities->persist($anew);
        $this->entities->flush();
        $title = \sprintf(
            'Trial %d, %s, %s',
            $number,
            mb_strtolower(Learners::title($trial->learner())),
            Newer::CALIBRATE === $use ? 'calibrated on newer records' : 'on newer records too',
        );
        $job = $this->jobs->start($study, $user, TrialRunner::KIND, $anew->id(), $title, Jobs::LONG, TrialRunner::pieces($plan));
        $this->entities->flush();

        return $job;
    }

    private function learner(Study $study, TrialPlan $plan): string
    {
        return '' === $plan->learner ? Learners::usual($this->questions->of($study)->task()) : $plan->learner;
    }

    private function begin(Study $study, User $user, TrialPlan $plan, SplitPlan $split): Job
    {
        $question = $this->questions->of($study);
        $number = $this->numbers->next($question);
        $learner = $this->learner($study, $plan);
        $inputs = $this->ground->inputs($study);
        $steps = array_values(array_filter($plan->variant->steps(), static fn (array $s) => true !== ($s['off'] ?? false)));
        $ancestry = Ancestry::of($question, $plan->variant->steps(), $inputs, $learner);
        $trial = new Trial(
            $question, $number, $plan->variant, $learner, $plan->settings, $steps, $inputs, $ancestry, $plan->part, $plan->choice?->toArray(),
            $plan->calibration, $plan->chosen?->toArray(),
        );
        $this->entities->persist($trial);
        $this->entities->flush();
        $title = \sprintf('Trial %d, %s', $number, mb_strtolower(Learners::title($learner)));
        $job = $this->jobs->start($study, $user, TrialRunner::KIND, $trial->id(), $title, Jobs::LONG, TrialRunner::pieces($split));
        $this->entities->flush();

        return $job;
    }

    /**
     * Said before it starts: work that needs more memory than a worker has would end it.
     *
     * @param list<string> $inputs
     */
    private function refuseWhatCannotFit(Study $study, array $inputs, int $columns, string $learner, ?int $part): void
    {
        $need = self::memory(
            $this->ground->table($study),
            $inputs,
            $columns,
            $this->questions->seal($study)->count(),
            Learners::card($learner),
            \count($this->questions->of($study)->classes() ?? []),
            $part,
        );
        if ($need > ($this->workerMegabytes << 20)) {
            throw new Problem(
                409,
                \sprintf(
                    'This trial would need about %.1f GB; a worker has %.1f. Set columns aside, above all categories with many values, or learn from a part of the rows.',
                    $need / 2 ** 30,
                    ($this->workerMegabytes << 20) / 2 ** 30,
                ),
            );
        }
    }

    /**
     * Bytes that a worker takes for a fit: what it takes anyway, the columns read, rows and outcomes in several lists, and what the
     * learner's
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

        return self::PROCESS + self::list($open) * $columns + self::LISTS * self::list($table->rows()) + $card->bytes(
            min($open, $part ?? $open),
            \count($inputs),
            $terms,
            $classes > 2 ? $classes : 0,
        );
    }

    /**
     * Bytes that PHP takes from the system for a list: it has room for a power of two of values, and lies in whole pages of a chunk of two
     * megabytes, of which a list of 40,000 leaves none for a second one.
     */
    private static function list(int $rows): float
    {
        $bytes = 16 * 2 ** max(3, (int) ceil(log(max(1, $rows), 2))) + 8;
        $pages = (int) ceil($bytes / 4096);

        return $pages > 511 ? 4096.0 * $pages : (2 << 20) / intdiv(511, $pages);
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
        $this->finalists->of($study, $ranked, true);
    }

    /** @return list<Trial> best first, then those without figures, then those of another question */
    public function of(Study $study): array
    {
        $measure = $this->questions->of($study)->figure();
        $trials = $this->entities->getRepository(Trial::class)->findBy(['question' => $study->id()], ['number' => 'ASC']);
        $value = fn (Trial $trial): ?float => $trial->line()->task === $this->questions->of($study)->task() ? $trial->line()->value : null;
        usort($trials, static fn (Trial $a, Trial $b) => $measure->order($value($a), $value($b)) ?: $a->number() <=> $b->number());

        return $trials;
    }

    /** How many trials of the study have a figure of what it asks now. */
    public function comparable(Study $study): int
    {
        return \count(array_filter(
            $this->of($study),
            fn (Trial $t): bool => null !== $t->line()->value && $t->line()->task === $this->questions->of($study)->task(),
        ));
    }

    /** @throws Problem when trials of the study cannot be ranked by it */
    public function rankBy(Study $study, User $user, string $key): void
    {
        $question = $this->questions->of($study);
        $before = $question->figure();
        try {
            $question->rankBy($key);
        } catch (\InvalidArgumentException $e) {
            throw Problem::invalid($e->getMessage(), 'figure');
        }
        $this->further->measure($study, $question->figure());
        if ($question->figure()->key !== $before->key) {
            $this->logbook->write(
                $study,
                $user,
                'judgment',
                \sprintf('Trials are ranked by %s now; before by %s.', $question->figure()->title, $before->title),
            );
        }
        $this->entities->flush();
    }

    public function standings(Study $study): StandingsView
    {
        $ranked = $this->of($study);
        $trials = array_map(TrialView::of(...), $ranked);
        $measure = $this->questions->of($study)->figure();
        $rate = $baseline = null;
        foreach ($ranked as $i => $trial) {
            if ($trials[$i]->task === $this->questions->of($study)->task()) {
                $rate ??= $trial->line()->baseRate;
                $baseline ??= $trials[$i]->baseline;
            }
        }

        return new StandingsView(
            $trials,
            $this->questions->of($study)->task(),
            FigureView::of($measure),
            $measure->title,
            $measure->says,
            $baseline,
            $rate,
            $this->distances->of($study, $ranked, self::AT_ONCE),
            $this->questions->of($study)->plan()->folds ?? 0,
            $this->questions->of($study)->plan()->repeats ?? 0,
            $this->questions->seal($study)->count(),
            \count(array_filter($trials, static fn (TrialView $t) => $t->sealOpened)),
            $this->distances->luck($study, $ranked, false),
            self::rankings($this->questions->of($study)->task()),
            $this->finalists->of($study, $ranked, false),
        );
    }

    /** @return list<RankingView> the figures that trials of a task can be ranked by */
    private static function rankings(string $task): array
    {
        return array_map(RankingView::of(...), array_values(array_filter(Figures::of($task), static fn (Figure $f): bool => $f->ranks)));
    }
}
