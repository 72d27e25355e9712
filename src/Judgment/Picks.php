<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Question\Ground;
use App\Question\Questions;
use App\Trial\Trial;
use Dokimos\Core\Task\Task;

/** Finds the validation rows behind a cell of a matrix or a band of errors. */
final readonly class Picks
{
    public function __construct(private Ground $ground, private Judgments $judgments, private Questions $questions)
    {
    }

    /**
     * @return array<int, float> by place among the open rows, the most mistaken first: the chance of an event, the chance of the class that
     *                           came, or what came less what was predicted
     *
     * @throws Problem for what the trial's target does not have
     */
    public function of(Trial $trial, Pick $pick): array
    {
        $task = $this->judgments->model($trial)->task;
        $this->judgments->onItsRows($trial);
        $classes = $this->questions->of($trial->study())->classes();
        foreach (['came' => $pick->came, 'named' => $pick->named] as $field => $class) {
            if (null !== $class && (Task::MORE !== $task || !\in_array($class, $classes ?? [], true))) {
                throw Problem::invalid(
                    Task::MORE !== $task ? 'Only several classes come as one and are named another.' : \sprintf(
                        '“%s” is none of the classes.',
                        $class,
                    ),
                    $field,
                );
            }
        }
        if (null !== $pick->cell && Task::TWO !== $task) {
            throw Problem::invalid('Cells of a cut-off are there where a study predicts an event.', 'cell');
        }
        if ((null !== $pick->low || null !== $pick->high) && Task::NUMBER !== $task) {
            throw Problem::invalid('Bands of errors are there where a study predicts a number.', 'low');
        }
        [, $outcome] = $this->ground->open($trial->study(), []);

        return match ($task) {
            Task::TWO => self::ofCell($trial, $pick, $outcome),
            Task::NUMBER => self::ofBand($trial, $pick, $outcome),
            default => self::ofClass($trial, $pick, $outcome, $classes ?? []),
        };
    }

    /**
     * @param list<float> $outcome
     *
     * @return array<int, float>
     */
    private static function ofCell(Trial $trial, Pick $pick, array $outcome): array
    {
        $picked = [];
        foreach ($trial->answers()->values as $i => $c) {
            if (is_nan($c)) {
                continue;
            }
            $own = ($pick->cutoff->calls($c) ? 'p' : 'n') === (\in_array($pick->cell, ['tp', 'fp'], true) ? 'p' : 'n')
                && ($outcome[$i] > 0.5) === \in_array($pick->cell, ['tp', 'fn'], true);
            if (null === $pick->cell || $own) {
                $picked[$i] = $c;
            }
        }
        'fn' === $pick->cell || 'tn' === $pick->cell ? asort($picked) : arsort($picked);

        return $picked;
    }

    /**
     * @param list<float> $outcome
     *
     * @return array<int, float>
     */
    private static function ofBand(Trial $trial, Pick $pick, array $outcome): array
    {
        $answers = $trial->answers();
        $picked = [];
        foreach ($outcome as $i => $y) {
            $off = $answers->isKnown($i) ? $y - $answers->first($i) : \NAN;
            if ($off >= ($pick->low ?? -\INF) && $off < ($pick->high ?? \INF)) {
                $picked[$i] = $off;
            }
        }
        uasort($picked, static fn (float $a, float $b): int => abs($b) <=> abs($a));

        return $picked;
    }

    /**
     * @param list<float>  $outcome
     * @param list<string> $classes
     *
     * @return array<int, float>
     */
    private static function ofClass(Trial $trial, Pick $pick, array $outcome, array $classes): array
    {
        $answers = $trial->answers();
        $picked = [];
        foreach ($outcome as $i => $y) {
            $came = $classes[(int) $y] ?? '';
            $named = $answers->isKnown($i) ? $classes[$answers->likeliest($i)] : null;
            if (null !== $named && ($pick->came ?? $came) === $came && ($pick->named ?? $named) === $named) {
                $picked[$i] = $answers->ofClass($i, (int) $y);
            }
        }
        asort($picked);

        return $picked;
    }
}
