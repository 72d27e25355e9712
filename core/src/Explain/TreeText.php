<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Learn\Tree\TreeModel;

/**
 * A tree's leaves written down to be taken elsewhere: as sentences, as a table, or as a condition of SQL, on the columns as the tree
 * reads them.
 */
final class TreeText
{
    public const TEXT = 'text';
    public const CSV = 'csv';
    public const SQL = 'sql';
    public const WAYS = [self::TEXT, self::CSV, self::SQL];

    /**
     * @param 'text'|'csv'|'sql' $way
     * @param bool               $sound only leaves that are worth stating as a rule; SQL always has all, since each record has to have an
     *                                  answer
     */
    public static function of(TreeModel $tree, TreeReading $reading, string $way, string $target, bool $sound): string
    {
        $paths = $tree->paths();
        $leaves = array_values(array_filter(
            $reading->leaves,
            static fn (TreeLeaf $l): bool => self::SQL === $way || !$sound || 'Sound' === $l->verdict,
        ));
        $condition = static fn (TreeLeaf $l): string => Part::condition($paths[$l->node]);
        $number = static fn (?float $v): string => null === $v ? '' : (string) (float) \sprintf('%.6g', $v);
        if (self::CSV === $way) {
            $lines = [CsvWriter::line([
                'leaf',
                'path',
                'sql',
                'names',
                'rows',
                'share_or_mean',
                'low',
                'high',
                'training_rows',
                'training',
                'answer',
                'verdict',
            ])];
            foreach ($leaves as $l) {
                $lines[] = CsvWriter::line([
                    (string) $l->number, $l->says, $condition($l), $l->named, (string) $l->rows, $number($l->share), $number($l->low), $number($l->high),
                    (string) $l->trainingRows, $number($l->trainingShare), $number($l->answer), $l->verdict,
                ]);
            }

            return implode('', $lines);
        }
        if (self::SQL === $way) {
            $lines = array_map(
                static fn (TreeLeaf $l): string => \sprintf('  WHEN %s THEN %s', $condition($l), json_encode($l->answer)),
                $leaves,
            );

            return "CASE\n".implode("\n", $lines)."\nEND AS \"".str_replace('"', '""', $target)."\"\n";
        }

        return implode('', array_map(static fn (TreeLeaf $l): string => \sprintf(
            "%d. %s%s: %s%s, of %s rows. %s\n",
            $l->number,
            $l->says,
            null === $l->named ? '' : ' → '.$l->named,
            $number($l->share ?? $l->answer),
            null === $l->low ? '' : \sprintf(' (%s to %s)', $number($l->low), $number($l->high)),
            number_format($l->rows),
            $l->verdict,
        ), $leaves));
    }
}
