<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Score\ScoredTables;
use App\Score\Scoring;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Task\Task;

/** Makes, changes and removes decisions over a scored table. */
final readonly class Decisions
{
    public function __construct(
        private EntityManagerInterface $entities,
        private ScoredTables $scored,
        private Logbook $logbook,
    ) {
    }

    /** @return list<DecisionLine> first made first */
    public function of(Scoring $scoring): array
    {
        return array_map(
            static fn (Decision $d): DecisionLine => new DecisionLine($d->id(), $d->name(), $d->createdAt()->format(\DATE_ATOM)),
            $this->entities->getRepository(Decision::class)->findBy(['scoring' => $scoring], ['id' => 'ASC']),
        );
    }

    public function make(Scoring $scoring, User $user, DecisionRequest $request): Decision
    {
        $terms = $request->terms ?? $this->assumed($scoring);
        Lists::check($scoring, $terms);
        $name = trim($request->name);
        $decision = new Decision($scoring, '' === $name ? self::freeName($this->of($scoring)) : $name, $terms);
        $this->entities->persist($decision);
        $this->logbook->write(
            $scoring->study(),
            $user,
            'decisions',
            \sprintf('Made a list of %s: "%s".', $scoring->table()->name(), $decision->name()),
        );
        $this->entities->flush();

        return $decision;
    }

    /** @param list<DecisionLine> $others */
    private static function freeName(array $others): string
    {
        $taken = array_map(static fn (DecisionLine $d): string => $d->name, $others);
        for ($k = 1; \in_array($name = 1 === $k ? 'List' : 'List '.$k, $taken, true); ++$k) {
        }

        return $name;
    }

    public function change(Decision $decision, User $user, DecisionRequest $request): void
    {
        $before = $decision->terms();
        $terms = $request->terms ?? $before;
        Lists::check($decision->scoring(), $terms);
        $name = trim($request->name);
        $decision->change('' === $name ? $decision->name() : $name, $terms);
        $said = self::changed($before, $terms);
        if ('' !== $said) {
            $this->logbook->write($decision->study(), $user, 'decisions', \sprintf('List "%s": %s.', $decision->name(), $said));
        }
        $this->entities->flush();
    }

    /** What was changed of money and capacity, in words; edges of tiers are a way of looking. */
    private static function changed(DecisionTerms $before, DecisionTerms $after): string
    {
        $names = [
            'cost' => 'an action costs',
            'works' => 'an action works in a share of',
            'worksLow' => 'at least',
            'worksHigh' => 'at most',
            'worth' => 'a prevented event is worth',
            'worthColumn' => 'what it is worth stands in',
            'kept' => 'of the value stays',
            'costOnSuccess' => 'success costs',
            'costInVain' => 'acting in vain costs',
            'most' => 'actions in all',
            'each' => 'actions for each',
            'eachBy' => 'for each',
            'share' => 'left untouched',
            'limit' => 'limit',
            'side' => 'side',
        ];
        $said = [];
        [$old, $new] = [$before->toArray(), $after->toArray()];
        foreach ($names as $key => $what) {
            if ($old[$key] !== $new[$key]) {
                $value = $new[$key];
                $said[] = \sprintf('%s %s', $what, \is_scalar($value) ? (string) $value : 'none');
            }
        }
        if ($old['actions'] !== $new['actions'] || $old['nothing'] !== $new['nothing']) {
            $said[] = 'amounts of actions by class';
        }

        return implode(', ', $said);
    }

    public function remove(Decision $decision, User $user): void
    {
        $this->logbook->write($decision->study(), $user, 'decisions', \sprintf('Removed the list "%s".', $decision->name()));
        $this->entities->remove($decision);
        $this->entities->flush();
    }

    /** Terms to begin with: amounts are assumed, edges and limits come from what was scored. */
    private function assumed(Scoring $scoring): DecisionTerms
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'The scoring is not finished.');
        }
        if (Task::MORE === $scoring->task()) {
            $counts = $scoring->summary()['classes'] ?? [];
            arsort($counts);
            $usual = (string) array_key_first($counts);
            $amounts = array_map(static fn (string $c): float => $c === $usual ? -5.0 : 20.0, $scoring->classes());

            return new DecisionTerms(
                actions: [['name' => 'Act', 'amounts' => $amounts]],
                nothing: array_fill(0, \count($amounts), 0.0),
            );
        }
        if (Task::NUMBER === $scoring->task()) {
            $answers = array_values(array_filter($this->scored->answers($scoring), is_finite(...)));
            sort($answers);
            $high = [] === $answers ? 1.0 : $answers[(int) floor(0.8 * (\count($answers) - 1))];

            return new DecisionTerms(chanceEdges: [0.2, 0.5], limit: (float) \sprintf('%.2g', $high));
        }
        $mean = $scoring->scored() > 0 ? (float) ($scoring->summary()['expected'] ?? 0.0) / $scoring->scored() : 0.0;
        $first = (float) \sprintf('%.2g', max(1e-4, min(0.4, $mean)));

        return new DecisionTerms(chanceEdges: [$first, (float) \sprintf('%.2g', min(0.9, 2.5 * $first))]);
    }
}
