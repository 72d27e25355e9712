<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Approval\Approvals;
use App\Decision\Decision;
use App\Decision\DecisionView;
use App\Decision\Weighing;
use App\Logbook\LogEntry;
use App\Question\Question;
use App\Recheck\Rechecked;
use App\Recheck\Rechecks;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Section;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Task\Task;

/** The sections of a dossier on what became of a model, and on how all of it was done. */
final readonly class OfWork
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Approvals $approvals,
        private Rechecks $rechecks,
        private Weighing $weighing,
    ) {
    }

    public function decisions(Study $study): Section
    {
        /** @var list<Decision> $all */
        $all = $this->entities->createQuery(
            'SELECT d FROM App\Decision\Decision d JOIN d.scoring s WHERE s.study = :study ORDER BY d.id',
        )->setParameter('study', $study->id())->getResult();
        if ([] === $all) {
            return new Section('decisions', 'Decisions', 'No list was made', [Block::text('No records were scored into a list yet.')]);
        }

        $blocks = [];
        foreach ($all as $decision) {
            $view = $this->weighing->of($decision);
            $blocks[] = Block::text(\sprintf(
                '*%s*, of %s records of %s scored by trial %d: *%s*. %s',
                $view->name,
                number_format($view->scored),
                $view->tableName,
                $view->trialNumber,
                Task::MORE === $view->task
                    ? implode(', ', array_map(static fn ($a): string => $a->name.' '.number_format($a->records), $view->actions))
                    : \sprintf(
                        '%s are acted on, expected return %s%s',
                        number_format($view->acted->actions),
                        $view->terms->unit,
                        number_format($view->acted->return),
                    ),
                self::terms($view),
            ), \sprintf('/study/%d/decisions/%d/list/%d', $study->id(), $view->scoringId, $view->id));
            array_push($blocks, ...Pictures::returns($view));
        }

        return new Section('decisions', 'Decisions', 1 === \count($all) ? 'One list' : \count($all).' lists', $blocks);
    }

    /** What a list stands on, in sentences. */
    private static function terms(DecisionView $view): string
    {
        $t = $view->terms;
        if (Task::MORE === $view->task) {
            return 'Each action has an amount for each class.';
        }
        $money = static fn (float $v): string => $t->unit.number_format($v, 0.0 === fmod($v, 1.0) ? 0 : 2);
        $said = [\sprintf(
            'An action costs %s and works in %.0f of 100 cases (%.0f to %.0f); a prevented event is worth %s.',
            $money($t->cost),
            100 * $t->works,
            100 * $t->worksLow,
            100 * $t->worksHigh,
            null === $t->worthColumn ? $money($t->worth) : 'what '.$t->worthColumn.' says',
        )];
        if ($t->kept < 1.0) {
            $said[] = \sprintf('Of that value %.0f of 100 stay.', 100 * $t->kept);
        }
        if ($t->costOnSuccess > 0.0 || $t->costInVain > 0.0) {
            $said[] = \sprintf('Success costs %s more, acting in vain %s.', $money($t->costOnSuccess), $money($t->costInVain));
        }
        if (null !== $t->most || null !== $t->each) {
            $said[] = \sprintf(
                'There can be %s.',
                implode(' and ', array_filter([
                    null === $t->most ? '' : number_format($t->most).' actions in all',
                    null === $t->each ? '' : \sprintf('%s for each %s', number_format($t->each), $t->eachBy ?? 'group'),
                ])),
            );
        }
        if ($t->share > 0.0) {
            $said[] = \sprintf('%.0f of 100 are left untouched by draw, to compare with.', 100 * $t->share);
        }
        if (null !== $t->limit && Task::NUMBER === $view->task) {
            $said[] = \sprintf('The event is to be %s %s.', $t->side, (string) $t->limit);
        }
        if (null !== $view->costBorne) {
            $said[] = \sprintf('It would return nothing if an action cost %s.', $money($view->costBorne));
        }

        return implode(' ', $said);
    }

    public function rechecked(Study $study): Section
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
                    Said::listed($told['reasons'] ?? []),
                ),
                \sprintf('/study/%d/decisions/recheck', $study->id()),
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
            array_push($blocks, ...Pictures::rechecked($told));
        }

        return new Section('recheck', 'Recheck', ucfirst($all[0]->verdict()), $blocks);
    }

    public function approved(Study $study): Section
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
                Said::ended($a->sentence()),
                Said::ended($a->limits()),
                $a->again()->format('j M Y'),
                null === $withdrawn ? '' : ' *Withdrawn*: '.Said::ended(Said::word($withdrawn['why'] ?? '')),
            ), \sprintf('/study/%d/decisions/service', $study->id()));
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
                        Said::word($g['by'] ?? '').' '.Said::word($g['group'] ?? $g['label'] ?? ''),
                        Said::word($g['rows'] ?? ''),
                        $of('caught'),
                        $of('vain'),
                        $of('off'),
                        Said::listed($g['says'] ?? []),
                    ];
                }, array_values(\array_slice($risk, 0, 40))));
            }
        }

        return new Section('approvals', 'Approvals', \sprintf('%d, each with its evidence', \count($all)), $blocks);
    }

    public function methods(Question $question, ?DataTable $table, ?Trial $leader): Section
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

    public function logbook(Study $study): Section
    {
        $entries = $this->entities->getRepository(LogEntry::class)->findBy(['study' => $study], ['id' => 'ASC'], 400);

        return new Section('logbook', 'Logbook', \sprintf(
            '%d entries',
            \count($entries),
        ), [Block::table('', ['When', 'Who', 'What'], array_map(static fn (LogEntry $e): array => [
            $e->at()->format('j M Y H:i'), $e->user()?->name() ?? '', $e->sentence(),
        ], $entries))]);
    }
}
