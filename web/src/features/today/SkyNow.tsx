import type { Today } from "../../api/client";
import { useUnits } from "../../units/context";

/** Sky, wind and light, with what they do to the fishing. */
export function SkyNow({ today }: { today: Today }) {
  const { show, say, clock } = useUnits();
  const { weather, light } = today;
  if (!weather && !light) return null;
  return (
    <section aria-label="Sky and wind" className="mt-3 flex gap-3">
      {light && <Sun height={light.height_deg} azimuth={light.azimuth_deg} />}
      <div className="min-w-0">
        {weather && (
          <p>
            <b>
              {weather.sky_words.replace(/^./, (first) => first.toUpperCase())}, air{" "}
              {show(weather.air_c, "°C")}
              {weather.rain_mm_h >= 0.1 && `, rain ${weather.rain_mm_h.toFixed(1)} mm/h`}
            </b>
            . {say(weather.wind_words)}
          </p>
        )}
        {light?.words.map((words) => (
          <p key={words}>{say(words)}</p>
        ))}
        {light?.sets && light.dark && (
          <p className="text-sm text-soft">
            Sun down {clock(light.sets)}, too dark for a sighter {clock(light.dark)}.
          </p>
        )}
        {weather?.trouble && (
          <p className="text-sm font-semibold text-caution">
            At the last try {weather.trouble}; this was foretold before.
          </p>
        )}
      </div>
    </section>
  );
}

const R = 31;

/** Where the sun stands: around is the compass, north up; the middle is straight above, the rim the horizon. */
function Sun({ height, azimuth }: { height: number; azimuth: number }) {
  const up = height > 0;
  const far = R * (1 - Math.max(0, height) / 90);
  const x = 40 + far * Math.sin((azimuth * Math.PI) / 180);
  const y = 40 - far * Math.cos((azimuth * Math.PI) / 180);
  return (
    <svg
      width={80}
      height={80}
      role="img"
      aria-label={up ? `Sun ${height.toFixed(0)}° up` : "Sun below the horizon"}
      className="shrink-0"
    >
      <circle cx={40} cy={40} r={R} fill="var(--paper)" stroke="var(--line)" strokeWidth={2} />
      <circle cx={40} cy={40} r={R / 2} fill="none" stroke="var(--line)" />
      <text x={40} y={21} textAnchor="middle" fontSize={11} fill="var(--soft)">
        N
      </text>
      <circle
        cx={x}
        cy={y}
        r={7}
        fill={up ? "var(--zone)" : "var(--paper)"}
        stroke="var(--ink)"
        strokeDasharray={up ? undefined : "2 2"}
      />
    </svg>
  );
}
