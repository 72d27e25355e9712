<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Question\Ground;
use Dokimos\Core\Validate\ColumnChoice;

/** The same trial once more without some of its columns. */
final readonly class Reductions
{
    public function __construct(private Trials $trials, private Offers $offers, private Ground $ground)
    {
    }

    /**
     * @param list<string> $columns of the table as it came: what is made of them alone goes too
     *
     * @throws Problem when there is nothing to leave out, or nothing would be left
     */
    public function without(Trial $trial, User $user, array $columns): Job
    {
        $variant = $trial->variant() ?? throw new Problem(409, 'The preparation of this trial is no longer there.');
        if ([] === $columns) {
            throw Problem::invalid('Name at least one column to leave out.', 'columns');
        }
        $known = $this->ground->inputs($trial->study());
        foreach ($columns as $name) {
            if (!\in_array($name, $known, true)) {
                throw Problem::invalid(\sprintf('"%s" is no input of this study.', $name), 'columns');
            }
        }
        $before = $trial->choice();
        $offered = array_values(array_filter(
            $this->offers->of($variant),
            static fn (OfferedView $o): bool => $before?->admits($o->name) ?? true,
        ));
        $goes = static fn (OfferedView $o): bool => \in_array($o->name, $columns, true) || (null !== $o->made && '' !== $o->made && [] === array_diff(explode(', ', $o->made), $columns));
        $left = array_map(
            static fn (OfferedView $o): string => $o->name,
            array_values(array_filter($offered, static fn (OfferedView $o): bool => !$goes($o))),
        );
        $gone = array_map(static fn (OfferedView $o): string => $o->name, array_values(array_filter($offered, $goes)));
        if ([] === $gone) {
            throw new Problem(409, 'This trial does not use these columns.');
        }
        if ([] === $left) {
            throw new Problem(409, 'No column would be left to learn from.');
        }
        // The shorter list is kept; a choice of a few columns stays one.
        $choice = null !== $before && !$before->without || \count($left) < \count($gone) ? new ColumnChoice($left, false) : new ColumnChoice(
            [...$before->names ?? [], ...$gone],
            true,
        );

        return $this->trials->start(
            $trial->study(),
            $user,
            new TrialPlan($variant, $trial->learner(), $trial->settings(), $trial->part(), $choice, $trial->calibration()),
        );
    }
}
