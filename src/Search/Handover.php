<?php

declare(strict_types=1);

namespace App\Search;

use App\Job\Job;
use App\Logbook\Logbook;
use App\Preparation\Variant;
use App\Preparation\Variants;
use App\Trial\Chosen;
use App\Trial\Trial;
use App\Trial\TrialPlan;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Learners\Learners;

/** What a guided search hands over: its steps as a variant that can be read and changed, and the best of each learner as ordinary trials. */
final readonly class Handover
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Variants $variants,
        private Trials $trials,
        private Logbook $logbook,
    ) {
    }

    public function finish(Search $search, Job $job, Guided $guided, Course $course): void
    {
        $figure = Figures::named($search->question()->task(), $search->figure());
        $all = $guided->candidates($course->tries, $course->weighed);
        $variants = $finals = $plans = [];
        foreach ($course->finals as $final) {
            $place = \is_int($final['place'] ?? null) ? $final['place'] : 0;
            $judged = $this->entities->getRepository(SearchTry::class)->findOneBy([
                'search' => $search,
                'place' => \count(Guided::RUNGS) * Course::STRIDE + $place,
            ]);
            if (null === $judged?->value()) {
                continue;
            }
            [$searching, $reading] = $this->climbed($search, $place);
            $try = $all[$place];
            $variant = $variants[$try->variant] ??= $this->variant(
                $search,
                $job,
                $guided->stepsOf($try->variant, $course->weighed),
                [', filled', '', ', for straight lines'][$try->variant] ?? '',
                $course,
            );
            $chosen = new Chosen(
                $search->id(),
                $search->figure(),
                \count($course->rungs[0] ?? []),
                $searching,
                $judged->value(),
                $judged->low(),
                $judged->high(),
            );
            $plans[] = new TrialPlan($variant, $course->learners[$try->space], $try->settings, chosen: $chosen);
            $finals[] = [
                'place' => $place,
                'learner' => $course->learners[$try->space],
                'searching' => $searching,
                'value' => $judged->value(),
                'low' => $judged->low(),
                'high' => $judged->high(),
                'reading' => $reading,
            ];
        }
        if ([] === $plans) {
            $search->stop('None of the best could be judged.');
            $this->entities->flush();

            return;
        }
        $jobs = $this->trials->several($search->study(), $job->user(), $plans);
        foreach ($jobs as $i => $begun) {
            $finals[$i]['trialId'] = $begun->subject();
        }
        $trial = $this->entities->find(Trial::class, $jobs[0]->subject());
        if (null !== $trial) {
            $search->hand($trial);
        }
        if (null !== $course->reading) {
            $search->question()->choose(['reading' => $course->reading] + $search->question()->finalists());
        }
        $search->stand($course->with(['stage' => Course::DONE, 'finals' => $finals])->toArray(), $search->tries());
        $lead = $plans[0]->chosen ?? throw new \LogicException('A trial of a search was chosen.');
        $search->finish(['searching' => $lead->searching, 'value' => $lead->value, 'low' => $lead->low, 'high' => $lead->high]);
        $made = array_values(array_filter($course->weighed, static fn ($w): bool => $w->kept));
        $this->logbook->write($search->study(), $job->user(), 'trials', \sprintf(
            'Guided search %d is done: %d ideas for columns, %d kept%s; %d tries on the first rung. The best, %s, scores %s %s (%s to %s) on %s rows that no choice had read; %d trials were handed over.',
            $search->number(), \count($course->weighed), \count($made), [] === $made ? '' : ' ('.implode(
                ', ',
                array_map(static fn ($w): string => $w->idea->name, $made),
            ).')', \count($course->rungs[0] ?? []),
            mb_strtolower(Learners::title($plans[0]->learner)), $figure->name, $figure->said($lead->value), $figure->said($lead->low), $figure->said($lead->high), number_format(\count($guided->judging)), \count($plans),
        ));
        $this->entities->flush();
    }

    /** @return array{float, ?int} the figure on the highest rung it climbed to, and how much there is to read */
    private function climbed(Search $search, int $place): array
    {
        for ($rung = \count(Guided::RUNGS) - 1; $rung >= 0; --$rung) {
            $try = $this->entities->getRepository(SearchTry::class)->findOneBy([
                'search' => $search,
                'place' => $rung * Course::STRIDE + $place,
            ]);
            if (null !== $try?->value()) {
                return [$try->value(), $try->reading()];
            }
        }

        return [0.0, null];
    }

    /** @param list<array<string, mixed>> $steps */
    private function variant(Search $search, Job $job, array $steps, string $how, Course $course): Variant
    {
        $from = $this->entities->find(Variant::class, $course->variantId);
        if (null !== $from && $steps === $course->steps) {
            return $from;
        }

        return $this->variants->create(
            $search->study(),
            $job->user(),
            \sprintf('Guided search %d%s', $search->number(), $how),
            $from,
            $steps,
        );
    }
}
