<?php

declare(strict_types=1);

namespace App\Decision;

use App\Table\TableColumn;

/** A list for those who act on it: who, and why, without a word of modeling; for paper and phone. One HTML page that needs nothing else. */
final readonly class Sheet
{
    private const MOST = 2000;

    public function __construct(private Lists $lists, private ListPages $pages)
    {
    }

    /** @param list<string> $carry columns shown beside the key */
    public function of(Decision $decision, array $carry): string
    {
        $scoring = $decision->scoring();
        $terms = $decision->terms();
        $listed = $this->lists->of($scoring, $terms);
        $key = Lists::key($scoring->table())?->name();
        $names = array_values(array_filter(
            array_map(static fn (TableColumn $c): string => $c->name(), $scoring->table()->columns()),
            static fn (string $name): bool => $name === $key || $name === $terms->eachBy || \in_array($name, $carry, true),
        ));
        $rows = $this->pages->rows($decision, $listed, \array_slice($listed->chosen->acted, 0, self::MOST), $names);
        $by = null === $terms->eachBy ? false : array_search($terms->eachBy, $names, true);
        $groups = [];
        foreach ($rows as $row) {
            $groups[false === $by ? '' : $row->cells[$by] ?? 'none'][] = $row;
        }
        ksort($groups, \SORT_NATURAL);
        $text = static fn (?string $s): string => htmlspecialchars($s ?? '–', \ENT_QUOTES | \ENT_SUBSTITUTE);
        $heads = array_values(array_filter($names, static fn (string $n): bool => false === $by || $n !== $names[$by]));
        $body = '';
        foreach ($groups as $group => $own) {
            $body .= '' === $group ? '' : \sprintf("<h2>%s: %d</h2>\n", $text((string) $group), \count($own));
            $body .= \sprintf(
                "<table><thead><tr><th></th>%s%s<th>Because</th></tr></thead><tbody>\n",
                implode('', array_map(static fn (string $n): string => '<th>'.$text(str_replace('_', ' ', $n)).'</th>', $heads)),
                null === $own[0]->action ? '' : '<th>Do</th>',
            );
            foreach ($own as $row) {
                $cells = array_combine($names, $row->cells);
                $body .= \sprintf(
                    "<tr><td class=\"box\"><span></span></td>%s%s<td>%s</td></tr>\n",
                    implode('', array_map(static fn (string $n): string => '<td>'.$text($cells[$n]).'</td>', $heads)),
                    null === $row->action ? '' : '<td>'.$text($row->action).'</td>',
                    $text(self::plainly($row->because)),
                );
            }
            $body .= "</tbody></table>\n";
        }
        $more = \count($listed->chosen->acted) > self::MOST ? \sprintf(
            '<p>The first %s of %s.</p>',
            number_format(self::MOST),
            number_format(\count($listed->chosen->acted)),
        ) : '';

        return \sprintf(
            self::PAGE,
            $text($decision->name()),
            $text($decision->name()),
            $text(\sprintf(
                '%s from %s, most worth it first. Made %s.',
                1 === \count($listed->chosen->acted) ? '1 record' : number_format(\count($listed->chosen->acted)).' records',
                $scoring->table()->name(),
                $scoring->createdAt()->format('j M Y'),
            )),
            $body.$more,
        );
    }

    /** What speaks for it, without figures: those who act need no points. */
    private static function plainly(string $because): string
    {
        $parts = array_filter(explode('; ', $because), static fn (string $p): bool => !str_contains($p, "(\u{2212}"));

        return implode('; ', array_map(static fn (string $p): string => (string) preg_replace('/ \(\+[^)]*\)$/', '', $p), $parts));
    }

    private const PAGE = <<<'HTML'
        <!doctype html>
        <html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>%s</title>
        <style>
        body { font: 15px/1.35 Georgia, serif; color: #1d2a2a; background: #fff; margin: 18px; }
        h1 { font-size: 22px; margin: 0 0 4px; } h2 { font-size: 16px; margin: 18px 0 4px; } p { margin: 0 0 10px; color: #566; }
        table { border-collapse: collapse; width: 100%%; font: 13px/1.3 Helvetica, Arial, sans-serif; }
        th, td { text-align: left; padding: 4px 8px 4px 0; border-bottom: 1px solid #ccc; vertical-align: top; }
        th { border-bottom: 1px solid #1d2a2a; } thead { display: table-header-group; } tr { break-inside: avoid; }
        td:nth-child(2) { white-space: nowrap; } .box span { display: inline-block; width: 11px; height: 11px; border: 1px solid #1d2a2a; }
        @media (max-width: 560px) { table, tbody, tr, td { display: block; } thead { display: none; } tr { padding: 6px 0; border-bottom: 1px solid #999; }
        td { border: 0; padding: 1px 0; } td.box { float: left; margin-right: 8px; } }
        @page { margin: 12mm; }
        </style></head><body>
        <h1>%s</h1><p>%s</p>
        %s</body></html>
        HTML;
}
