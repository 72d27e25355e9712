<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\OpenCells;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Act\MeasuredEffect;

/** Measures what acting did, from a later table with what came: those to be acted on against those left untouched by draw. */
final readonly class Measuring
{
    public function __construct(
        private Lists $lists,
        private OpenCells $reader,
        private Logbook $logbook,
        private EntityManagerInterface $entities,
    ) {
    }

    public function measure(Decision $decision, User $user, DataTable $table, MeasureRequest $request): void
    {
        $scoring = $decision->scoring();
        $terms = $decision->terms();
        if ($terms->share <= 0.0) {
            throw Problem::invalid('This list has nobody left untouched, so that there is nothing to compare with.', 'share');
        }
        $outcome = $table->column($request->outcome) ?? throw Problem::invalid('Choose the column with what came.', 'outcome');
        $key = $table->column($request->key) ?? throw Problem::invalid('Choose the column that tells records apart.', 'key');
        $own = $scoring->table()->column($request->key)
            ?? throw Problem::invalid(\sprintf('The scored table has no column "%s".', $request->key), 'key');
        [$keys, $came] = [$this->reader->column($key), $this->reader->column($outcome)];
        $events = [];
        for ($row = 0; $row < $table->rows(); ++$row) {
            $text = $keys->text($row);
            if (null !== $text && !$came->isMissing($row)) {
                if (isset($events[$text])) {
                    throw Problem::invalid(
                        \sprintf('"%s" stands twice in %s: which one is meant cannot be told.', $text, $table->name()),
                        'key',
                    );
                }
                $events[$text] = $came->text($row) === $request->event;
            }
        }
        $listed = $this->lists->of($scoring, $terms);
        $names = $this->reader->column($own);
        $count = static function (array $rows) use ($names, $events): array {
            $found = $hits = 0;
            foreach ($rows as $row) {
                $event = $events[(string) $names->text($row)] ?? null;
                $found += null === $event ? 0 : 1;
                $hits += true === $event ? 1 : 0;
            }

            return [$found, $hits];
        };
        [$acted, $actedEvents] = $count($listed->chosen->acted);
        [$left, $leftEvents] = $count($listed->chosen->left);
        if (0 === $acted || 0 === $left) {
            throw Problem::invalid(
                \sprintf('%s holds none of those %s.', $table->name(), 0 === $acted ? 'acted on' : 'left untouched'),
                'tableId',
            );
        }
        $missing = \count($listed->chosen->acted) + \count($listed->chosen->left) - $acted - $left;
        $decision->keepMeasured([
            'table' => $table->name(),
            'acted' => $acted,
            'actedEvents' => $actedEvents,
            'left' => $left,
            'leftEvents' => $leftEvents,
            'missing' => $missing,
        ]);
        $works = MeasuredEffect::of($acted, $actedEvents, $left, $leftEvents)->works;
        $this->logbook->write($decision->study(), $user, 'decisions', null === $works->value ? \sprintf(
            'Measured the list "%s" with %s: those left untouched had no event.',
            $decision->name(),
            $table->name(),
        ) : \sprintf(
            'Measured the list "%s" with %s: acting prevented %.0f%% (%.0f to %.0f) of events.',
            $decision->name(),
            $table->name(),
            100 * $works->value,
            100 * (float) $works->low,
            100 * (float) $works->high,
        ));
        $this->entities->flush();
    }
}
